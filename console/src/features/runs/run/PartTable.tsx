import { AttachmentList } from '../../../shared/attempts/AttachmentList';
import { attachmentHref } from '../../../shared/attempts/types';
import { plural } from '../../../shared/lib/format';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import type { Part, Run } from '../api';
import { CountsLine } from '../components/CountsLine';
import { VariantWords } from '../components/VariantWords';
import { type Span, spanOf } from '../model';
import { Lane } from './Lane';

/** The parts of a run, with their files' problems and their environment. */
export function PartTable(props: { project: string; run: Run; parts: Part[] }) {
  const { parts } = props;
  const span = spanOf(parts);
  return (
    <div className="mt-2 max-h-64 overflow-y-auto rounded-box border border-base-300">
      <table className="table table-sm">
        <thead>
          <tr>
            <th>Part</th>
            <th>Results</th>
            <th className="w-1/3">{parts.length > 1 && span ? 'When it ran' : 'Time'}</th>
            <th>Arrived</th>
            <th>Files and environment</th>
          </tr>
        </thead>
        <tbody>
          {parts.map((part) => (
            <PartRow key={part.number} {...props} part={part} span={span} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** How its job ended, as "job failed, exit code 3: make test". */
function jobWords(job: NonNullable<Part['job']>): string {
  const how = job.signal
    ? `, ended by ${job.signal}`
    : job.exitCode
      ? `, exit code ${job.exitCode}`
      : '';
  return `job ${job.status}${how}${job.command ? `: ${job.command}` : ''}`;
}

function PartRow(props: { project: string; run: Run; part: Part; span: Span | null }) {
  const { part, span } = props;
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
        {Object.keys(part.variant).length > 0 ? (
          <p className="mt-0.5 flex flex-wrap gap-1 font-normal">
            <VariantWords variant={part.variant} />
          </p>
        ) : null}
        {part.job && part.job.status !== 'passed' ? (
          <p className="text-sm font-normal text-errored">{jobWords(part.job)}</p>
        ) : null}
        {part.brokenOff ? (
          <p className="text-sm font-normal text-errored">broken off: kept up to where it came</p>
        ) : null}
      </td>
      <td>
        <CountsLine counts={part.counts} />
      </td>
      <td>
        <Lane part={part} span={span} />
      </td>
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
        {part.attachments.length > 0 ? (
          <details>
            <summary className="link-hover cursor-pointer">
              {plural(part.attachments.length, 'attachment')} of no test
            </summary>
            <AttachmentList
              attachments={part.attachments}
              href={(one) => attachmentHref(props.project, props.run, one)}
            />
          </details>
        ) : null}
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
