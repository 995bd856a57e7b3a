import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { CopyButton } from '../../shared/ui/CopyButton';
import { RelativeTime } from '../../shared/ui/RelativeTime';
import { Failed, Loading } from '../../shared/ui/States';
import { projectsQuery } from './api';
import {
  changePerson,
  invitationsQuery,
  invite,
  type Person,
  peopleQuery,
  ROLES,
  resetPassword,
  withdraw,
} from './people';

/** Everybody who can sign in to the portal; for its administrators. */
export function PeoplePage({ own }: { own: string }) {
  const people = useQuery(peopleQuery);
  return (
    <main className="mx-auto w-full max-w-4xl overflow-y-auto p-8">
      <h1 className="font-serif text-3xl">People</h1>
      <p className="mt-1 text-quiet">
        Who can sign in. What somebody may do in a project stands with the project, under Members.
      </p>
      <Invite />
      <Invitations />
      <section className="mt-6 overflow-x-auto rounded-box border border-base-300">
        {people.isPending ? <Loading lines={3} /> : null}
        {people.error ? <Failed error={people.error} /> : null}
        {people.data ? (
          <table className="table">
            <thead>
              <tr>
                <th>Name</th>
                <th>Is</th>
                <th>Since</th>
                <th>
                  <span className="sr-only">Actions</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {people.data.map((person) => (
                <PersonRow key={person.login} person={person} own={person.login === own} />
              ))}
            </tbody>
          </table>
        ) : null}
      </section>
    </main>
  );
}

function PersonRow({ person, own }: { person: Person; own: boolean }) {
  const client = useQueryClient();
  const change = useMutation({
    mutationFn: (to: { administrator: boolean; enabled: boolean }) =>
      changePerson(person.login, to.administrator, to.enabled),
    onSuccess: () => client.invalidateQueries(peopleQuery),
  });
  const reset = useMutation({ mutationFn: () => resetPassword(person.login) });
  const error = change.error ?? reset.error;
  return (
    <>
      <tr className={person.enabled ? '' : 'text-quiet'}>
        <td className="max-w-60 truncate font-semibold" title={person.login}>
          {person.login}
          {own ? <span className="font-normal text-quiet"> (you)</span> : null}
        </td>
        <td>{person.enabled ? (person.administrator ? 'administrator' : 'member') : 'disabled'}</td>
        <td>
          <RelativeTime iso={person.createdAt} />
        </td>
        <td className="text-right">
          <span className="inline-flex flex-wrap justify-end gap-2">
            <button
              type="button"
              className="btn btn-sm"
              disabled={change.isPending || !person.enabled}
              onClick={() =>
                change.mutate({ administrator: !person.administrator, enabled: person.enabled })
              }
            >
              {person.administrator ? 'Make a member' : 'Make administrator'}
            </button>
            <button
              type="button"
              className="btn btn-sm"
              disabled={reset.isPending}
              onClick={() => reset.mutate()}
            >
              Reset password
            </button>
            <button
              type="button"
              className="btn btn-sm"
              disabled={change.isPending || own}
              onClick={() =>
                change.mutate({ administrator: person.administrator, enabled: !person.enabled })
              }
            >
              {person.enabled ? 'Disable' : 'Let in again'}
            </button>
          </span>
        </td>
      </tr>
      {error || reset.data ? (
        <tr>
          <td colSpan={4}>
            {error ? (
              <p role="alert" className="text-error">
                {error.message}
              </p>
            ) : null}
            {reset.data ? <LinkOnce login={reset.data.login} url={reset.data.url} /> : null}
          </td>
        </tr>
      ) : null}
    </>
  );
}

function LinkOnce({ login, url }: { login: string; url: string }) {
  return (
    <div role="status">
      <p className="font-semibold">
        Send this link to {login} now: it is good once, for seven days, and not shown again.
      </p>
      <div className="mt-2 flex items-center gap-2 rounded-field bg-base-100 p-3">
        <code className="break-all">{url}</code>
        <CopyButton text={url} what="the link" />
      </div>
    </div>
  );
}

function Invite() {
  const client = useQueryClient();
  const projects = useQuery(projectsQuery);
  const [login, setLogin] = useState('');
  const [project, setProject] = useState('');
  const [role, setRole] = useState<string>('contributor');
  const mutation = useMutation({
    mutationFn: () =>
      invite({
        login,
        administrator: false,
        projects: project ? [{ project, role }] : [],
      }),
    onSuccess: async () => {
      setLogin('');
      await client.invalidateQueries(invitationsQuery);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    mutation.mutate();
  };
  return (
    <form onSubmit={submit} className="mt-6 rounded-box border border-base-300 bg-base-200 p-5">
      <h2 className="font-serif text-xl">Invite somebody</h2>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <label className="grow">
          <span className="text-sm font-semibold">Name to sign in with</span>
          <input
            className="input mt-1 w-full"
            value={login}
            onChange={(e) => setLogin(e.target.value)}
            placeholder="ada or ada@skerrow.example"
            required
          />
        </label>
        <label>
          <span className="text-sm font-semibold">Project</span>
          <select
            className="select mt-1 w-full"
            value={project}
            onChange={(e) => setProject(e.target.value)}
          >
            <option value="">none yet</option>
            {projects.data?.map((one) => (
              <option key={one.key} value={one.key}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
        <RoleSelect value={role} onChange={setRole} disabled={project === ''} />
        <button type="submit" className="btn btn-primary" disabled={mutation.isPending}>
          Make a link
        </button>
      </div>
      {mutation.error ? (
        <p role="alert" className="mt-3 text-error">
          {mutation.error.message}
        </p>
      ) : null}
      {mutation.data ? (
        <div className="mt-4">
          <LinkOnce login={mutation.data.login} url={mutation.data.url} />
        </div>
      ) : null}
    </form>
  );
}

export function RoleSelect(props: {
  value: string;
  onChange: (role: string) => void;
  disabled?: boolean;
  label?: string;
}) {
  return (
    <label>
      <span className={props.label ? 'sr-only' : 'text-sm font-semibold'}>
        {props.label ?? 'As'}
      </span>
      <select
        className={props.label ? 'select select-sm w-full' : 'select mt-1 w-full'}
        value={props.value}
        disabled={props.disabled}
        onChange={(e) => props.onChange(e.target.value)}
      >
        {ROLES.map((role) => (
          <option key={role} value={role}>
            {role}
          </option>
        ))}
      </select>
    </label>
  );
}

function Invitations() {
  const client = useQueryClient();
  const invitations = useQuery(invitationsQuery);
  const end = useMutation({
    mutationFn: withdraw,
    onSuccess: () => client.invalidateQueries(invitationsQuery),
  });
  if (!invitations.data?.length) {
    return null;
  }
  return (
    <section className="mt-6 rounded-box border border-base-300 p-5">
      <h2 className="font-serif text-xl">Links that were not used yet</h2>
      <ul className="mt-2 divide-y divide-base-300">
        {invitations.data.map((one) => (
          <li key={one.login} className="flex flex-wrap items-baseline gap-3 py-2">
            <strong className="max-w-60 truncate" title={one.login}>
              {one.login}
            </strong>
            <span className="text-quiet">
              {one.known ? 'another password' : 'to come in'}
              {one.projects.map((place) => `, ${place.role} of ${place.project}`).join('')}, by{' '}
              {one.createdBy}, ends <RelativeTime iso={one.expiresAt} />
            </span>
            <button
              type="button"
              className="btn btn-sm ml-auto"
              onClick={() => end.mutate(one.login)}
              disabled={end.isPending}
            >
              Withdraw
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
