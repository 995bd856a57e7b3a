import type { TestDetail } from '../api';
import type { TestsSearch } from '../model';
import { RunNumber } from './RunNumber';

/** What it was called before, as what it goes on, and why that is thought. */
export function NamesBefore(props: {
  project: string;
  stream: string;
  detail: TestDetail;
  onChange: (next: Partial<TestsSearch>) => void;
}) {
  const { names, becomes } = props.detail;
  if (names.length === 0 && becomes === null) {
    return null;
  }
  return (
    <div>
      <h3 className="font-semibold">Other names</h3>
      {becomes === null ? null : (
        <p className="mt-1 text-sm">
          It goes on under another name:{' '}
          <button type="button" className="link" onClick={() => props.onChange({ test: becomes })}>
            look at that one
          </button>
        </p>
      )}
      <ul className="mt-1 space-y-1.5 text-sm">
        {names.map((one) => (
          <li key={`${one.oldTest} ${one.newTest}`}>
            <span className="break-words">{one.old}</span>
            <span className="block text-quiet">
              {one.state === 'joined' ? 'until ' : 'perhaps until '}
              {one.run === null ? (
                'somebody joined them'
              ) : (
                <RunNumber
                  project={props.project}
                  stream={props.stream}
                  run={one.run}
                  filter={undefined}
                />
              )}
              {one.reasons.length > 0 ? `: ${one.reasons.join(', ')}` : ''}
              {one.state === 'joined' ? '' : ` (${Math.round(one.likely * 100)} %)`}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
