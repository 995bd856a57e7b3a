import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, type ReactNode, useId, useState } from 'react';
import { plural } from '../../../shared/lib/format';
import { triageKeys } from '../../../shared/triage/keys';
import { Wrong } from '../../../shared/ui/Form';
import { keepTracker, type Settings, settingsOf, type Tracker, tryTracker } from './api';

/** Writes how the tracker is spoken to, and tries it. */
export function TrackerForm({ project, kept }: { project: string; kept: Tracker }) {
  const client = useQueryClient();
  const [settings, setSettings] = useState(() => settingsOf(kept));
  const [secret, setSecret] = useState('');
  const [text, setText] = useState('');
  const keeping = useMutation({
    mutationFn: () => keepTracker(project, kept.version, settings, secret),
    onSuccess: () => client.invalidateQueries({ queryKey: triageKeys.tracker(project) }),
  });
  const trying = useMutation({ mutationFn: () => tryTracker(project, settings, secret, text) });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    keeping.mutate();
  };
  const line = (name: keyof Settings, label: string, placeholder: string, needed = false) => (
    <Line
      label={label}
      placeholder={placeholder}
      needed={needed}
      value={settings[name]}
      onChange={(value) => setSettings({ ...settings, [name]: value })}
    />
  );
  const area = (name: keyof Settings, label: string, placeholder: string) => (
    <Line
      lines={3}
      label={label}
      placeholder={placeholder}
      value={settings[name]}
      onChange={(value) => setSettings({ ...settings, [name]: value })}
    />
  );
  return (
    <form onSubmit={submit} className="mt-5 space-y-6">
      <div className="grid gap-4 min-[700px]:grid-cols-2">
        {line('name', 'Name', 'Harbour log', true)}
        {line('page', 'Page of an entry', 'https://log.example.org/look/{key}')}
      </div>
      <Part title="Look for entries, and read one">
        {line(
          'find',
          'URL that finds',
          'https://log.example.org/find?text={text}&most={most}',
          true,
        )}
        {line('read', 'URL of one entry', 'https://log.example.org/entries/{key}', true)}
      </Part>
      <Part title="What stands where in its answers (JSON pointers)">
        {line('listAt', 'List of what was found', '/entries')}
        {line('entryAt', 'Entry that was read or made', '')}
        {line('keyAt', 'Key', '/key', true)}
        {line('titleAt', 'Title', '/title', true)}
        {line('textAt', 'Description', '/text')}
        {line('stateAt', 'State', '/state', true)}
        {line('closedAtAt', 'When it was closed (ISO 8601)', '/closedAt')}
      </Part>
      {area('closed', 'States in which an entry is closed, one in each line', 'done')}
      <Part title="Make entries, if that is wanted">
        {line('create', 'URL, by POST', 'https://log.example.org/entries')}
        {area('createBody', 'JSON that is sent', '{"title": "{title}", "text": "{text}"}')}
      </Part>
      <Part title="Tell entries what they are linked to, if that is wanted">
        {line('comment', 'URL, by POST', 'https://log.example.org/entries/{key}/comments')}
        {area('commentBody', 'JSON that is sent', '{"text": "{text}"}')}
      </Part>
      <Part title="Sign in">
        {line('header', 'Header of every call', 'Authorization: Bearer {secret}')}
        <Line
          label={kept.hasSecret ? 'Secret, if it shall be another one' : 'Secret'}
          secret
          placeholder=""
          value={secret}
          onChange={setSecret}
        />
      </Part>
      <div className="rounded-box border border-base-300 bg-base-200/60 px-4 py-3">
        <div className="flex flex-wrap items-end gap-3">
          <div className="grow">
            <Line label="Try it: look for" placeholder="boarding" value={text} onChange={setText} />
          </div>
          <button
            type="button"
            className="btn btn-sm mb-1"
            disabled={text.trim() === '' || trying.isPending}
            onClick={() => trying.mutate()}
          >
            Try
          </button>
        </div>
        <Wrong error={trying.error} />
        {trying.data ? (
          <div role="status" className="mt-2 text-sm">
            <p className="font-semibold">
              {plural(trying.data.entries.length, 'entry', 'entries')}
            </p>
            <ul>
              {trying.data.entries.map((one) => (
                <li key={one.key} className="truncate">
                  <span className="font-mono text-[12px]">{one.key}</span> {one.title}{' '}
                  <span className="text-quiet">
                    {one.state}, {one.open ? 'open' : 'closed'}
                  </span>
                </li>
              ))}
            </ul>
          </div>
        ) : null}
      </div>
      <div className="flex items-center justify-end gap-3">
        {keeping.isSuccess ? <span role="status">Kept.</span> : null}
        <button type="submit" className="btn btn-primary btn-sm" disabled={keeping.isPending}>
          Keep
        </button>
      </div>
      <Wrong error={keeping.error} />
    </form>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset>
      <legend className="mb-2 font-serif text-lg">{title}</legend>
      <div className="grid gap-4 min-[700px]:grid-cols-2">{children}</div>
    </fieldset>
  );
}

function Line(props: {
  label: string;
  placeholder: string;
  value: string;
  onChange: (value: string) => void;
  needed?: boolean;
  secret?: boolean;
  lines?: number;
}) {
  const id = useId();
  const common = {
    id,
    placeholder: props.placeholder,
    value: props.value,
    required: props.needed ?? false,
    spellCheck: false,
    autoComplete: props.secret ? 'new-password' : 'off',
    onChange: (e: { target: { value: string } }) => props.onChange(e.target.value),
  };
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="text-sm font-semibold">
        {props.label}
      </label>
      {props.lines ? (
        <textarea
          {...common}
          rows={props.lines}
          className="textarea mt-1 w-full font-mono text-[13px]"
        />
      ) : (
        <input
          {...common}
          type={props.secret ? 'password' : 'text'}
          className="input input-sm mt-1 w-full font-mono text-[13px]"
        />
      )}
    </div>
  );
}
