import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useId, useState } from 'react';
import { FilterBox } from '../../../shared/filter/FilterBox';
import { projectsQuery } from '../../../shared/session/api';
import { Dialog, DialogActions } from '../../../shared/ui/Dialog';
import { SelectField } from '../../../shared/ui/Form';
import { APART, KINDS, OVER_TIME } from '../model';
import { PanelView } from '../panel/PanelView';
import type { Panel } from '../types';

const STEPS = [
  ['hour', 'hour'],
  ['day', 'day'],
  ['week', 'week'],
] as const;

/** A panel while it is written, as it will look on real data. */
export function PanelEditor(props: {
  project: string;
  panel: Panel;
  fresh: boolean;
  onPut: (panel: Panel) => void;
  onClose: () => void;
}) {
  const text = useId();
  const [panel, setPanel] = useState(props.panel);
  const [by, setBy] = useState(props.panel.by.join(', '));
  const [minimum, setMinimum] = useState(
    props.panel.minimum === null ? '' : String(Math.round(props.panel.minimum * 1000) / 10),
  );
  const set = (next: Partial<Panel>) => setPanel((now) => ({ ...now, ...next }));
  const submit = (event: FormEvent) => {
    event.preventDefault();
    props.onPut(panel);
  };
  const words = panel.kind === 'text';
  const projects = useQuery(projectsQuery);
  const others = otherProjects(projects.data ?? [], props.project, panel.project);
  return (
    <Dialog title={props.fresh ? 'A new panel' : 'Change the panel'} wide onClose={props.onClose}>
      <form onSubmit={submit}>
        <div className="mt-4 grid grid-cols-2 gap-3">
          <SelectField
            label="What it shows"
            value={panel.kind}
            onChange={(kind) => set({ kind: kind as Panel['kind'] })}
            options={KINDS}
          />
          <label className="block">
            <span className="text-sm font-semibold">Title</span>
            <input
              className="input mt-1 w-full"
              value={panel.title}
              maxLength={100}
              placeholder={KINDS.find(([kind]) => kind === panel.kind)?.[1]}
              onChange={(e) => set({ title: e.target.value })}
            />
          </label>
          <div className="col-span-2">
            <label htmlFor={text} className="text-sm font-semibold">
              {words ? 'Words (Markdown)' : 'A line below the title'}
            </label>
            {words ? (
              <textarea
                id={text}
                className="textarea mt-1 w-full"
                rows={5}
                value={panel.text}
                maxLength={4000}
                onChange={(e) => set({ text: e.target.value })}
              />
            ) : (
              <input
                id={text}
                className="input mt-1 w-full"
                value={panel.text}
                maxLength={4000}
                onChange={(e) => set({ text: e.target.value })}
              />
            )}
          </div>
          {words || (others.length === 0 && panel.project === null) ? null : (
            <SelectField
              className="col-span-2"
              label="Of the project"
              value={panel.project ?? ''}
              onChange={(project) => set({ project: project === '' ? null : project })}
              options={[['', 'this one'], ...others]}
            />
          )}
          {words ? null : (
            <div className="col-span-2">
              <p className="mb-1 text-sm font-semibold">Which runs</p>
              <FilterBox
                exact
                project={panel.project ?? props.project}
                of="run"
                filter={panel.filter}
                onChange={(filter) => set({ filter })}
                placeholder='all; or as in stream sw "booking" and branch eq "main"'
              />
            </div>
          )}
          {words ? null : (
            <label className="block">
              <span className="text-sm font-semibold">Period, in days</span>
              <input
                type="number"
                className="input mt-1 w-full"
                min={1}
                max={7320}
                value={panel.days}
                onChange={(e) => set({ days: Math.max(1, Math.round(Number(e.target.value))) })}
              />
            </label>
          )}
          {OVER_TIME.includes(panel.kind) ? (
            <SelectField
              label="A point for each"
              value={panel.step}
              onChange={(step) => set({ step: step as Panel['step'] })}
              options={STEPS}
            />
          ) : null}
          {APART.includes(panel.kind) ? (
            <label className="block">
              <span className="text-sm font-semibold">Apart by</span>
              <input
                className="input mt-1 w-full font-mono"
                value={by}
                placeholder="stream, branch, label.team"
                onChange={(e) => {
                  setBy(e.target.value);
                  set({ by: e.target.value.split(/[\s,]+/).filter((word) => word !== '') });
                }}
              />
            </label>
          ) : null}
          {panel.kind === 'breakdown' ? (
            <label className="block">
              <span className="text-sm font-semibold">Pass rate to hold, in %</span>
              <input
                type="number"
                className="input mt-1 w-full"
                min={0}
                max={100}
                step="any"
                placeholder="none"
                value={minimum}
                onChange={(e) => {
                  setMinimum(e.target.value);
                  set({ minimum: e.target.value === '' ? null : Number(e.target.value) / 100 });
                }}
              />
            </label>
          ) : null}
        </div>
        {/* A number that is followed from here would leave what is written. */}
        <div inert className="mt-4 flex h-56 flex-col rounded-box border border-base-300 p-3">
          <PanelView project={props.project} panel={panel} board={{}} inNumbers={false} />
        </div>
        <DialogActions
          label={props.fresh ? 'Put it on the board' : 'Change it'}
          disabled={false}
          onCancel={props.onClose}
        />
      </form>
    </Dialog>
  );
}

/** Those that a panel can be of, with its own where that is none that can be read. */
function otherProjects(
  all: readonly { key: string; name: string }[],
  here: string,
  own: string | null,
): (readonly [string, string])[] {
  const others = all.filter((one) => one.key !== here).map((one) => [one.key, one.name] as const);
  return own === null || others.some(([key]) => key === own) ? others : [...others, [own, own]];
}
