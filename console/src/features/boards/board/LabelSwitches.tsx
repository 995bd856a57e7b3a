import { useIsFetching, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { filterHelpQuery } from '../../../shared/filter/api';
import { joinTerms, splitTerms } from '../../../shared/filter/terms';
import { chosenOf, labelsOf, switched } from '../labels';
import type { Panel } from '../types';

/** So many values are proposed at most; there may be more. */
const PROPOSED = 30;

/** Switches all panels of a board to runs with a label: by those that its panels tell apart. */
export function LabelSwitches(props: {
  project: string;
  panels: readonly Panel[];
  filter: string;
  onChange: (filter: string) => void;
}) {
  const { project, filter } = props;
  const [added, setAdded] = useState<string[]>([]);
  const terms = splitTerms(filter);
  const shown = labelsOf(props.panels, terms, added);
  const keys = useProposals(project, 'label.')
    .flatMap((text) => text.match(/^label\.([A-Za-z][\w-]*) $/)?.[1] ?? [])
    .filter((key) => key !== 'key' && key !== 'value' && !shown.includes(key));
  return (
    <>
      {shown.map((key) => (
        <Values
          key={key}
          project={project}
          label={key}
          value={chosenOf(terms, key)}
          onChange={(value) => props.onChange(joinTerms(switched(terms, key, value)))}
        />
      ))}
      {keys.length > 0 ? (
        <select
          className="select select-sm w-auto text-quiet"
          aria-label="Switch by another label"
          value=""
          onChange={(e) => setAdded([...added, e.target.value])}
        >
          <option value="">label …</option>
          {keys.map((key) => (
            <option key={key}>{key}</option>
          ))}
        </select>
      ) : null}
    </>
  );
}

function Values(props: {
  project: string;
  label: string;
  value: string | undefined;
  onChange: (value: string | undefined) => void;
}) {
  const { label, value } = props;
  const there = useProposals(props.project, `label.${label} eq `).flatMap((text) => {
    const said: unknown = text.startsWith('"') ? JSON.parse(text) : undefined;
    return typeof said === 'string' ? [said] : [];
  });
  const all = value === undefined || there.includes(value) ? there : [value, ...there];
  return (
    <span className="flex items-center gap-2 text-sm">
      <span className="max-w-32 truncate text-quiet">{label}</span>
      <select
        aria-label={`Runs of ${label}`}
        className={`select select-sm w-auto max-w-44 ${value === undefined ? '' : 'border-primary'}`}
        value={value === undefined ? '' : `=${value}`}
        onChange={(e) =>
          props.onChange(e.target.value === '' ? undefined : e.target.value.slice(1))
        }
      >
        <option value="">all</option>
        {all.map((one) => (
          <option key={one} value={`=${one}`}>
            {one === '' ? '(empty)' : one}
          </option>
        ))}
        {there.length >= PROPOSED ? <option disabled>others: by a filter</option> : null}
      </select>
    </span>
  );
}

/** Whether the board’s panels have what they show: that comes first. */
function useAfterSheets(project: string): boolean {
  const [asked, setAsked] = useState(false);
  const [ready, setReady] = useState(false);
  const sheets = useIsFetching({ queryKey: ['runs', project, 'sheet'] });
  useEffect(() => {
    // The panels ask as soon as they are there, which is now.
    const soon = setTimeout(() => setAsked(true));
    return () => clearTimeout(soon);
  }, []);
  useEffect(() => {
    if (asked && sheets === 0) setReady(true);
  }, [asked, sheets]);
  return ready;
}

/** What could stand at the end of a filter of runs. */
function useProposals(project: string, text: string): string[] {
  const ready = useAfterSheets(project);
  const help = useQuery({
    ...filterHelpQuery(project, 'run', text, text.length),
    enabled: ready,
  });
  return help.data?.proposals.map((one) => one.text) ?? [];
}
