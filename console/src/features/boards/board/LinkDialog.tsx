import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { exactTime } from '../../../shared/lib/format';
import { AskTwice } from '../../../shared/ui/AskTwice';
import { CopyButton } from '../../../shared/ui/CopyButton';
import { Dialog } from '../../../shared/ui/Dialog';
import { Once, SelectField, Wrong } from '../../../shared/ui/Form';
import { Failed, Loading } from '../../../shared/ui/States';
import { addLink, linksQuery, removeLink } from '../api';
import type { Board } from '../types';

const DAYS = [
  ['1', 'a day'],
  ['7', '7 days'],
  ['30', '30 days'],
  ['90', '90 days'],
  ['366', 'a year'],
] as const;

/** Links by which a board is seen without an account: those there are, and another one. */
export function LinkDialog(props: { project: string; board: Board; onClose: () => void }) {
  const { project, board } = props;
  const client = useQueryClient();
  const [days, setDays] = useState<string>('30');
  const links = useQuery(linksQuery(project, board.id));
  const again = () => client.invalidateQueries(linksQuery(project, board.id));
  const making = useMutation({
    mutationFn: () => addLink(project, board.id, Number(days)),
    onSuccess: again,
  });
  const removing = useMutation({
    mutationFn: (link: number) => removeLink(project, board.id, link),
    // What is to be copied opens nothing any more.
    onSuccess: (_, link) => (making.data?.link.id === link ? making.reset() : undefined),
    onSettled: again,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    making.mutate();
  };
  const others = board.panels.some((panel) => panel.project !== null);
  return (
    <Dialog title={`Links to “${board.name}”`} wide onClose={props.onClose}>
      <p className="mt-2 text-quiet">
        Whoever has a link sees this board without an account, as it is then, and nothing else: no
        number leads anywhere.{others ? ' Panels of other projects stay closed.' : ''}
      </p>
      <form onSubmit={submit} className="mt-4 flex items-end gap-3">
        <SelectField label="Good for" value={days} onChange={setDays} options={DAYS} />
        <button type="submit" className="btn btn-primary" disabled={making.isPending}>
          Make a link
        </button>
      </form>
      <Wrong error={making.error ?? removing.error} />
      {making.data ? (
        <Once say="Copy it now: it is not shown again.">
          <p className="mt-1 flex items-center gap-2">
            <code className="min-w-0 truncate rounded-field bg-base-200 px-2 py-1">
              {making.data.url}
            </code>
            <CopyButton text={making.data.url} what="the link" />
          </p>
        </Once>
      ) : null}
      {links.error ? <Failed error={links.error} retry={() => links.refetch()} /> : null}
      {links.isPending ? <Loading lines={2} /> : null}
      {links.data?.length ? (
        <table className="table table-sm mt-4">
          <thead>
            <tr>
              <th>Made by</th>
              <th>On</th>
              <th>Ends</th>
              <th>
                <span className="sr-only">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {links.data.map((link) => (
              <tr key={link.id}>
                <td className="max-w-48 truncate">{link.madeBy}</td>
                <td>{exactTime(link.madeAt)}</td>
                <td>{exactTime(link.endsAt)}</td>
                <td className="text-right">
                  <AskTwice
                    label="Take back"
                    really="Nobody sees it by this link any more"
                    onYes={() => removing.mutate(link.id)}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
      <div className="modal-action">
        <button type="button" className="btn btn-sm" onClick={props.onClose}>
          Close
        </button>
      </div>
    </Dialog>
  );
}
