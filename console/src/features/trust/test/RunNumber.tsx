import { Link } from '@tanstack/react-router';

/** A run of a stream by its number, and the result in it if that is told. */
export function RunNumber(props: {
  project: string;
  stream: string;
  run: number;
  result?: string;
  filter: string | undefined;
}) {
  return (
    <Link
      to="/$project/runs/$"
      params={{ project: props.project, _splat: `${props.stream}/${props.run}` }}
      search={{
        ...(props.result === undefined ? {} : { result: props.result }),
        ...(props.filter === undefined ? {} : { filter: props.filter }),
      }}
      className="link"
    >
      #{props.run}
    </Link>
  );
}
