import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { type FormEvent, useState } from 'react';
import { streamsQuery } from '../../../shared/runs/api';
import { runsChanged } from '../../../shared/runs/keys';
import { Dialog, DialogActions } from '../../../shared/ui/Dialog';
import { Wrong } from '../../../shared/ui/Form';
import { moveRun, type Run } from '../api';
import { StreamField } from '../components/StreamField';

/** Brings a run that was sent under a wrong name to its stream. */
export function MoveDialog(props: { project: string; run: Run; onClose: () => void }) {
  const { project, run } = props;
  const [to, setTo] = useState('');
  const client = useQueryClient();
  const navigate = useNavigate();
  const streams = useQuery(streamsQuery(project));
  const move = useMutation({
    mutationFn: () => moveRun(project, run, to.trim()),
    onSuccess: async (place) => {
      props.onClose();
      await navigate({
        to: '/$project/runs/$',
        params: { project, _splat: `${place.stream}/${place.number}` },
      });
      await runsChanged(client, project);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    move.mutate();
  };
  return (
    <Dialog title={`Move ${run.stream} #${run.number}`} onClose={props.onClose}>
      <form onSubmit={submit} className="mt-3 space-y-3">
        <p>
          It gets the next number of the other stream and the place of its time there. What changed
          is told anew in both. Its pipeline goes on sending to {run.stream}, until it is told the
          right name.
        </p>
        <StreamField
          label="To the stream"
          value={to}
          streams={(streams.data ?? [])
            .map((stream) => stream.name)
            .filter((name) => name !== run.stream)}
          onChange={setTo}
        />
        <Wrong error={move.error} className="" />
        <DialogActions label="Move the run" disabled={move.isPending} onCancel={props.onClose} />
      </form>
    </Dialog>
  );
}
