import { duration, plural } from '../../../shared/lib/format';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import type { Part } from '../api';
import { CountsLine } from './CountsLine';

/** The parts of a run, with their files' problems and their environment. */
export function PartTable({ parts }: { parts: Part[] }) {
  return (
    <div className="mt-2 max-h-64 overflow-y-auto rounded-box border border-base-300">
      <table className="table table-sm">
        <thead>
          <tr>
            <th>Part</th>
            <th>Results</th>
            <th>Test time</th>
            <th>Arrived</th>
            <th>Files and environment</th>
          </tr>
        </thead>
        <tbody>
          {parts.map((part) => (
            <PartRow key={part.number} part={part} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function PartRow({ part }: { part: Part }) {
  const environment = Object.entries(part.environment);
  const problems = part.files.flatMap((file) =>
    file.problems.map((problem) => ({ file: file.name, problem })),
  );
  return (
    <tr className="align-top">
      <td className="font-semibold">
        {part.buildUrl ? (
          <a className="link" href={part.buildUrl} rel="noreferrer noopener" target="_blank">
            {part.name}
          </a>
        ) : (
          part.name
        )}
      </td>
      <td>
        <CountsLine counts={part.counts} />
      </td>
      <td className="tabular-nums">{duration(part.testTimeMs)}</td>
      <td>
        <RelativeTime iso={part.receivedAt} />
      </td>
      <td>
        {plural(part.files.length, 'file')}
        {problems.map(({ file, problem }) => (
          <p key={file + problem} className="text-errored">
            <code>{file}</code>: {problem}
          </p>
        ))}
        {environment.length > 0 ? (
          <details>
            <summary className="link-hover cursor-pointer">
              {plural(environment.length, 'property', 'properties')}
            </summary>
            <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-3">
              {environment.map(([key, value]) => (
                <div key={key} className="contents">
                  <dt className="text-quiet">
                    <code>{key}</code>
                  </dt>
                  <dd className="break-all">
                    <code>{value}</code>
                  </dd>
                </div>
              ))}
            </dl>
          </details>
        ) : null}
      </td>
    </tr>
  );
}
