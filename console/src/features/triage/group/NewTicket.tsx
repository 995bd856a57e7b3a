import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, useId, useState } from 'react';
import { Wrong } from '../../../shared/ui/Form';
import { Failed, Loading } from '../../../shared/ui/States';
import { draftTicket, makeTicket } from './tickets';

/** A new entry of the tracker, filled in with what is known, to be looked over first. */
export function NewTicket(props: { project: string; group: number; onMade: () => void }) {
  const { project, group } = props;
  const draft = useQuery({
    queryKey: ['ticket-draft', project, group],
    queryFn: () => draftTicket(project, group),
    // What is being written must not change.
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
  });
  if (draft.isPending) {
    return <Loading lines={5} />;
  }
  if (draft.error) {
    return <Failed error={draft.error} retry={() => draft.refetch()} />;
  }
  return <Form {...props} title={draft.data.title} text={draft.data.text} />;
}

function Form(props: {
  project: string;
  group: number;
  title: string;
  text: string;
  onMade: () => void;
}) {
  const [title, setTitle] = useState(props.title);
  const [text, setText] = useState(props.text);
  const id = useId();
  const making = useMutation({
    mutationFn: () => makeTicket(props.project, props.group, title.trim(), text),
    onSuccess: props.onMade,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    making.mutate();
  };
  return (
    <form
      onSubmit={submit}
      className="mt-2 space-y-2 rounded-box border border-base-300 bg-base-200/60 px-4 py-3"
    >
      <label htmlFor={`${id}-title`} className="text-sm font-semibold">
        Title
      </label>
      <input
        id={`${id}-title`}
        className="input input-sm w-full"
        maxLength={500}
        value={title}
        onChange={(e) => setTitle(e.target.value)}
      />
      <label htmlFor={`${id}-text`} className="text-sm font-semibold">
        Text <span className="font-normal text-quiet">(Markdown)</span>
      </label>
      <textarea
        id={`${id}-text`}
        className="textarea w-full font-mono text-[13px]"
        rows={12}
        maxLength={50_000}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <div className="flex justify-end">
        <button
          type="submit"
          className="btn btn-primary btn-sm"
          disabled={making.isPending || title.trim() === ''}
        >
          Make it, and link it
        </button>
      </div>
      <Wrong error={making.error} />
    </form>
  );
}
