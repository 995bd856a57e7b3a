import type { TestDetail } from '../api';
import type { TestsSearch } from '../model';

/** In which stream it is looked at, when it is in several. */
export function StreamChoice(props: {
  detail: TestDetail;
  stream: string;
  branch: string | undefined;
  onChange: (next: Partial<TestsSearch>) => void;
}) {
  const { streams } = props.detail;
  return (
    <div className="flex flex-wrap gap-1 border-b border-base-300">
      {streams.map((one) => (
        <button
          key={one.stream}
          type="button"
          aria-pressed={one.stream === props.stream}
          onClick={() => props.onChange({ in: one.stream, branch: undefined })}
          className={`-mb-px border-b-2 px-2 py-1 text-sm ${
            one.stream === props.stream
              ? 'border-primary font-semibold text-primary'
              : 'border-transparent hover:bg-base-200'
          }`}
        >
          {one.stream}
          {one.estimate.verdict === 'flaky' || one.estimate.verdict === 'broken' ? (
            <span className="ml-1 font-normal text-quiet">{one.estimate.verdict}</span>
          ) : null}
        </button>
      ))}
      {props.branch === undefined ? null : (
        <button
          type="button"
          className="link ml-auto self-center text-sm"
          onClick={() => props.onChange({ branch: undefined })}
        >
          all branches, not {props.branch} alone
        </button>
      )}
    </div>
  );
}
