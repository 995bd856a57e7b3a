import { useMutation } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { Dialog, DialogActions } from '../../../shared/ui/Dialog';
import { Wrong } from '../../../shared/ui/Form';
import { changeQuarantine, type Quarantine, quarantine, useTrustAgain } from '../api';
import { promisedBy, TermsFields, termsOf } from './TermsFields';

/** Puts a test into quarantine, or gives one that is there other terms. */
export function TestDialog(props: {
  project: string;
  test: number;
  stream: string;
  owner: string;
  reason: string;
  /** The one that is changed. */
  of: Quarantine | undefined;
  onClose: () => void;
}) {
  const { project, of } = props;
  const [promised, setPromised] = useState(() =>
    of === undefined
      ? promisedBy(props.owner, props.reason)
      : { owner: of.owner, reason: of.reason, ticket: of.ticket ?? '', until: of.until },
  );
  const [everywhere, setEverywhere] = useState(false);
  const again = useTrustAgain(project);
  const saying = useMutation({
    mutationFn: async () => {
      if (of === undefined) {
        await quarantine(project, {
          tests: [props.test],
          stream: everywhere ? null : props.stream,
          ...termsOf(promised),
        });
      } else {
        await changeQuarantine(project, of.id, { version: of.version, ...termsOf(promised) });
      }
    },
    onSuccess: async () => {
      props.onClose();
      await again();
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    saying.mutate();
  };
  return (
    <Dialog title={of === undefined ? 'Into quarantine' : 'Other terms'} onClose={props.onClose}>
      <form onSubmit={submit} className="mt-2">
        <p className="mb-3 text-sm text-quiet">
          In runs that begin from now on its failures stay visible, but fail no gate, up to the end
          of the last day (UTC).
        </p>
        <TermsFields value={promised} onChange={setPromised} />
        {of === undefined ? (
          <label className="mt-3 flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={everywhere}
              onChange={(e) => setEverywhere(e.target.checked)}
            />
            <span>in every stream, not in {props.stream} alone</span>
          </label>
        ) : null}
        <Wrong error={saying.error} />
        <DialogActions
          label={of === undefined ? 'Put it there' : 'Keep these'}
          disabled={saying.isPending}
          onCancel={props.onClose}
        />
      </form>
    </Dialog>
  );
}
