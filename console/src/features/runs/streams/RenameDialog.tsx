import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from '@tanstack/react-router';
import { type FormEvent, useState } from 'react';
import { plural } from '../../../shared/lib/format';
import { streamsQuery } from '../../../shared/runs/api';
import { runsChanged } from '../../../shared/runs/keys';
import { AskTwice } from '../../../shared/ui/AskTwice';
import { Dialog, DialogActions } from '../../../shared/ui/Dialog';
import { Wrong } from '../../../shared/ui/Form';
import { forgetName, moveRuns, namesBeforeQuery, renameStream, type Stream } from '../api';
import { StreamField } from '../components/StreamField';

/** Gives a stream another name, or its runs to the stream that has that name already. */
export function RenameDialog(props: { project: string; stream: Stream; onClose: () => void }) {
  const { project, stream } = props;
  const [typed, setTyped] = useState(stream.name);
  const name = typed.trim();
  const client = useQueryClient();
  const navigate = useNavigate();
  const streams = useQuery(streamsQuery(project));
  const other = streams.data?.find((one) => one.name === name && one.name !== stream.name);
  const rename = useMutation({
    mutationFn: async () => {
      await (other
        ? moveRuns(project, stream.name, name)
        : renameStream(project, stream.name, name));
    },
    onSuccess: async () => {
      props.onClose();
      await runsChanged(client, project);
      await navigate({ to: '/$project/runs', params: { project }, search: { stream: name } });
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    rename.mutate();
  };
  return (
    <Dialog title={`Rename ${stream.name}`} onClose={props.onClose}>
      <form onSubmit={submit} className="mt-3 space-y-3">
        <StreamField
          label="It shall be called"
          value={typed}
          streams={(streams.data ?? []).map((one) => one.name)}
          onChange={setTyped}
        />
        {other ? (
          <p role="status">
            <strong className="break-all">{other.name}</strong> is there already, with{' '}
            {plural(other.runCount, 'run')}. The {plural(stream.runCount, 'run')} of{' '}
            <span className="break-all">{stream.name}</span> will be moved there, each to the place
            of its time and with a new number. This cannot be undone.
          </p>
        ) : (
          <p className="text-quiet">
            Runs keep their numbers, and addresses with the name of before still lead here.
          </p>
        )}
        <p className="text-quiet">
          What pipelines send to <span className="break-all">{stream.name}</span>{' '}
          {other ? 'goes there' : 'comes here'} too.
        </p>
        <Wrong error={rename.error} className="" />
        <DialogActions
          label={other ? `Move ${plural(stream.runCount, 'run')}` : 'Rename'}
          disabled={rename.isPending || name === stream.name || name === ''}
          onCancel={props.onClose}
        />
      </form>
      <NamesBefore project={project} stream={stream.name} />
    </Dialog>
  );
}

function NamesBefore({ project, stream }: { project: string; stream: string }) {
  const names = useQuery(namesBeforeQuery(project, stream));
  const forget = useMutation({
    mutationFn: (name: string) => forgetName(project, name),
    onSuccess: () => names.refetch(),
  });
  if (!names.data?.length) {
    return null;
  }
  return (
    <section className="mt-4 border-t border-base-300 pt-3">
      <h3 className="text-sm font-semibold">Names of before</h3>
      <ul className="mt-1 space-y-1">
        {names.data.map((name) => (
          <li key={name} className="flex items-center justify-between gap-3">
            <span className="min-w-0 break-all">{name}</span>
            <AskTwice
              label="Let go"
              really="Begin a stream anew with it"
              disabled={forget.isPending}
              onYes={() => forget.mutate(name)}
            />
          </li>
        ))}
      </ul>
      <Wrong error={forget.error} className="mt-1 text-sm" />
    </section>
  );
}
