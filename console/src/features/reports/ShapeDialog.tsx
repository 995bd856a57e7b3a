import { useMutation } from '@tanstack/react-query';
import { type FormEvent, useId, useState } from 'react';
import { Dialog, DialogActions } from '../../shared/ui/Dialog';
import { SelectField, Wrong } from '../../shared/ui/Form';
import { OutputBlock } from '../../shared/ui/OutputBlock';
import { type Report, shaped } from './api';
import type { ReportSearch } from './model';

const ESCAPES = [
  ['none', 'as they are'],
  ['html', 'for HTML and XML'],
  ['json', 'for a text in JSON'],
  ['csv', 'for a cell in CSV'],
] as const;

/** A template to begin with: the first table, row by row. */
function starting(report: Report): string {
  const table = report.tables[0];
  return [
    '{{title}} of {{project}}, {{period}}',
    `{{#${table?.word}}}{{#rows}}`,
    '{{#cells}}{{title}}: {{words}}; {{/cells}}',
    `{{/rows}}{{/${table?.word}}}`,
    '',
  ].join('\n');
}

/** The report in the shape of a template of one's own. */
export function ShapeDialog(props: {
  project: string;
  search: ReportSearch;
  report: Report;
  onClose: () => void;
}) {
  const id = useId();
  const [template, setTemplate] = useState(() => starting(props.report));
  const [texts, setTexts] = useState('none');
  const shaping = useMutation({
    mutationFn: () => shaped(props.project, props.search, template, texts),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    shaping.mutate();
  };
  return (
    <Dialog title="By a template" wide onClose={props.onClose}>
      <form onSubmit={submit} className="space-y-3">
        <div>
          <label htmlFor={id} className="text-sm font-semibold">
            Template
          </label>
          <textarea
            id={id}
            className="textarea mt-1 h-40 w-full font-mono text-[13px]"
            value={template}
            onChange={(e) => setTemplate(e.target.value)}
            spellCheck={false}
            required
          />
          <p className="mt-1 text-[13px] text-quiet">
            In the Mustache language. Tables here:{' '}
            {props.report.tables.map((table) => table.word).join(', ')}.
          </p>
        </div>
        <SelectField
          label="Texts"
          value={texts}
          onChange={setTexts}
          options={ESCAPES}
          className="w-60"
        />
        <Wrong error={shaping.error} />
        {shaping.data === undefined ? null : (
          <>
            <OutputBlock text={shaping.data.slice(0, SHOWN)} />
            <a
              className="link text-sm"
              href={`data:text/plain;charset=utf-8,${encodeURIComponent(shaping.data)}`}
              download={`${props.report.kind}.txt`}
            >
              Keep it as a file
            </a>
          </>
        )}
        <DialogActions label="Shape it" disabled={shaping.isPending} onCancel={props.onClose} />
      </form>
    </Dialog>
  );
}

const SHOWN = 20_000;
