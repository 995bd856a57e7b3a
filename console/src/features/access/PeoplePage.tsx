import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { projectsQuery } from '../../shared/session/api';
import { AskTwice } from '../../shared/ui/AskTwice';
import { CopyButton } from '../../shared/ui/CopyButton';
import { MakeForm, Once, SelectField, TextField, Wrong } from '../../shared/ui/Form';
import { RelativeTime } from '../../shared/ui/RelativeTime';
import { Failed, Loading } from '../../shared/ui/States';
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
      {people.error ? null : (
        <>
          <Invite />
          <Invitations />
        </>
      )}
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
            <AskTwice
              label={person.administrator ? 'Make a member' : 'Make administrator'}
              really={person.administrator ? 'Really a member' : 'Really administrator'}
              disabled={change.isPending || !person.enabled}
              onYes={() =>
                change.mutate({ administrator: !person.administrator, enabled: person.enabled })
              }
            />
            <button
              type="button"
              className="btn btn-sm"
              disabled={reset.isPending}
              onClick={() => reset.mutate()}
            >
              Reset password
            </button>
            <AskTwice
              label={person.enabled ? 'Disable' : 'Let in again'}
              really={person.enabled ? 'Really disable' : 'Really let in'}
              disabled={change.isPending || own}
              onYes={() =>
                change.mutate({ administrator: person.administrator, enabled: !person.enabled })
              }
            />
          </span>
        </td>
      </tr>
      {error || reset.data ? (
        <tr>
          <td colSpan={4}>
            <Wrong error={error} className="" />
            {reset.data ? <LinkOnce login={reset.data.login} url={reset.data.url} /> : null}
          </td>
        </tr>
      ) : null}
    </>
  );
}

function LinkOnce({ login, url }: { login: string; url: string }) {
  return (
    <Once
      say={`Send this link to ${login} now: it is good once, for seven days, and not shown again.`}
    >
      <div className="mt-2 flex items-center gap-2 rounded-field bg-base-100 p-3">
        <code className="break-all">{url}</code>
        <CopyButton text={url} what="the link" />
      </div>
    </Once>
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
  return (
    <MakeForm
      title="Invite somebody"
      button="Make a link"
      onSubmit={() => mutation.mutate()}
      busy={mutation.isPending}
      error={mutation.error}
      made={mutation.data ? <LinkOnce login={mutation.data.login} url={mutation.data.url} /> : null}
    >
      <TextField
        label="Name to sign in with"
        className="grow"
        value={login}
        onChange={setLogin}
        placeholder="ada or ada@skerrow.example"
      />
      <SelectField
        label="Project"
        value={project}
        onChange={setProject}
        options={[
          ['', 'none yet'],
          ...(projects.data ?? []).map((one) => [one.key, one.name] as const),
        ]}
      />
      <RoleSelect value={role} onChange={setRole} disabled={project === ''} />
    </MakeForm>
  );
}

export function RoleSelect(props: {
  value: string;
  onChange: (role: string) => void;
  disabled?: boolean;
  /** In a table: whose role it is. */
  of?: string;
}) {
  return (
    <SelectField
      label={props.of ? `Role of ${props.of}` : 'As'}
      small={props.of !== undefined}
      value={props.value}
      disabled={props.disabled}
      onChange={props.onChange}
      options={ROLES.map((role) => [role, role] as const)}
    />
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
