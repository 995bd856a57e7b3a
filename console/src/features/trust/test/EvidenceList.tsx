import type { TestHistory } from '../api';
import { RunNumber } from './RunNumber';

const WORDS: Record<string, string> = {
  'passed on retry': 'Failed, and passed when tried again in the same run',
  'both on one commit': 'Failed on a commit on which it passed too',
  'alone between passes': 'Failed alone between runs in which it passed',
};

/** What shows that it fails by chance, the strongest first. */
export function EvidenceList(props: {
  project: string;
  stream: string;
  evidence: TestHistory['evidence'];
}) {
  const kinds = [...new Set(props.evidence.map((one) => one.kind))];
  if (kinds.length === 0) {
    return null;
  }
  return (
    <div>
      <h3 className="font-semibold">What speaks for chance</h3>
      <dl className="mt-1 space-y-1 text-sm">
        {kinds.map((kind) => (
          <div key={kind} className="flex flex-wrap gap-x-3">
            <dt>{WORDS[kind] ?? kind}:</dt>
            <dd className="flex flex-wrap gap-x-2">
              {props.evidence
                .filter((one) => one.kind === kind)
                .map((one) => (
                  <RunNumber
                    key={`${one.run} ${one.result}`}
                    project={props.project}
                    stream={props.stream}
                    run={one.run}
                    result={one.result}
                    filter={undefined}
                  />
                ))}
            </dd>
          </div>
        ))}
      </dl>
    </div>
  );
}
