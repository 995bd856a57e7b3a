import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { runsChanged } from '../runs/keys';
import { Dialog, DialogActions } from '../ui/Dialog';
import { Wrong } from '../ui/Form';
import { OUTCOMES, type Outcome, OutcomeGlyph } from '../ui/OutcomeGlyph';
import { setOutcome } from './api';
import { editsChanged } from './keys';

/** Sets the outcome of a result over the reported one, or takes that back. */
export function OverruleDialog(props: {
  project: string;
  run: number;
  result: string;
  name: string;
  outcome: Outcome;
  reported: Outcome | null;
  onClose: () => void;
}) {
  const client = useQueryClient();
  const [wanted, setWanted] = useState<Outcome | null>(props.reported === null ? 'passed' : null);
  const [reason, setReason] = useState('');
  const save = useMutation({
    mutationFn: () =>
      setOutcome(props.project, props.run, props.result, {
        seen: props.outcome,
        outcome: wanted,
        reason,
      }),
    onSuccess: async () => {
      await Promise.all([runsChanged(client, props.project), editsChanged(client, props.project)]);
      props.onClose();
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate();
  };
  const choices = OUTCOMES.filter((one) => one !== props.outcome && one !== props.reported);
  return (
    <Dialog title={`Overrule ${props.name}`} onClose={props.onClose}>
      <form onSubmit={submit} className="mt-4">
        <fieldset>
          <legend className="text-sm font-semibold">It counts as</legend>
          <div className="mt-1 grid gap-1">
            {props.reported ? (
              <Choice chosen={wanted === null} onChoose={() => setWanted(null)}>
                <OutcomeGlyph outcome={props.reported} /> {props.reported}, as it was reported
              </Choice>
            ) : null}
            {choices.map((one) => (
              <Choice key={one} chosen={wanted === one} onChoose={() => setWanted(one)}>
                <OutcomeGlyph outcome={one} /> {one}
              </Choice>
            ))}
          </div>
        </fieldset>
        <label className="mt-3 block">
          <span className="text-sm font-semibold">Why</span>
          <textarea
            className="textarea mt-1 h-20 w-full"
            required
            maxLength={2000}
            placeholder="For those who wonder later"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
          />
        </label>
        <p className="mt-2 text-sm text-quiet">
          What was reported stays visible, and the run says that somebody overruled it.
        </p>
        <Wrong error={save.error} className="mt-2" />
        <DialogActions
          label={wanted === null ? 'Take it back' : 'Overrule'}
          disabled={save.isPending}
          onCancel={props.onClose}
        />
      </form>
    </Dialog>
  );
}

function Choice(props: { chosen: boolean; onChoose: () => void; children: React.ReactNode }) {
  return (
    <label className="flex cursor-pointer items-center gap-2">
      <input
        type="radio"
        name="outcome"
        className="radio radio-sm"
        checked={props.chosen}
        onChange={props.onChoose}
      />
      {props.children}
    </label>
  );
}
