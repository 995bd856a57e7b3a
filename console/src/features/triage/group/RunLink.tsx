import { Link } from '@tanstack/react-router';

/** To a run, at the results of a group or at one of them. */
export function RunLink(props: {
  project: string;
  run: { stream: string; number: number };
  group?: number;
  result?: string;
  words?: string;
}) {
  const { project, run } = props;
  return (
    <Link
      to="/$project/runs/$"
      params={{ project, _splat: `${run.stream}/${run.number}` }}
      search={{
        ...(props.group === undefined ? {} : { filter: `group eq ${props.group}` }),
        ...(props.result === undefined ? {} : { result: props.result }),
      }}
      className="text-base-content underline decoration-quiet/50 underline-offset-2 hover:decoration-current"
    >
      {props.words ?? `${run.stream} #${run.number}`}
    </Link>
  );
}
