import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { exactTime } from '../../shared/lib/format';
import { Empty, Loading } from '../../shared/ui/States';
import { sessionQuery } from './api';
import { join, lookAtInvitation } from './people';

/** Where the link of an invitation leads; its secret stands behind the “#”, which no server sees. */
export function JoinPage({ secret, onSignedIn }: { secret: string; onSignedIn: () => void }) {
  const client = useQueryClient();
  const [password, setPassword] = useState('');
  const [again, setAgain] = useState('');
  const invitation = useQuery({
    queryKey: ['invitation', secret],
    queryFn: () => lookAtInvitation(secret),
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const mutation = useMutation({
    mutationFn: () => join(secret, password),
    onSuccess: (session) => {
      client.clear();
      client.setQueryData(sessionQuery.queryKey, session);
      onSignedIn();
    },
  });
  if (invitation.error) {
    return (
      <Empty title="This link cannot be used" page>
        {invitation.error.message}
      </Empty>
    );
  }
  if (!invitation.data) {
    return <Loading lines={4} />;
  }
  const differs = again !== '' && again !== password;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!differs) {
      mutation.mutate();
    }
  };
  return (
    <main className="flex min-h-full items-center justify-center bg-base-200 p-6">
      <form
        onSubmit={submit}
        className="w-full max-w-sm rounded-box border border-base-300 bg-base-100 p-8 shadow-sm"
      >
        <img src="/favicon.svg" alt="" width={44} height={44} />
        <h1 className="mt-4 font-serif text-3xl">
          {invitation.data.known ? 'Another password' : 'Welcome'}
        </h1>
        <p className="mt-1 text-quiet">
          For <strong className="text-base-content">{invitation.data.login}</strong>. This link is
          good once, until {exactTime(invitation.data.expiresAt)}.
        </p>
        <input type="hidden" autoComplete="username" value={invitation.data.login} readOnly />
        <Secret label="Password, at least 12 characters" value={password} onChange={setPassword} />
        <Secret label="Password again" value={again} onChange={setAgain} />
        {differs ? (
          <p role="alert" className="mt-3 text-error">
            The two passwords are not the same.
          </p>
        ) : null}
        {mutation.error ? (
          <p role="alert" className="mt-3 text-error">
            {mutation.error.message}
          </p>
        ) : null}
        <button
          type="submit"
          className="btn btn-primary mt-6 w-full"
          disabled={mutation.isPending || differs}
        >
          {mutation.isPending ? 'A moment …' : 'Go on'}
        </button>
      </form>
    </main>
  );
}

function Secret(props: { label: string; value: string; onChange: (value: string) => void }) {
  return (
    <label className="mt-4 block">
      <span className="text-sm font-semibold">{props.label}</span>
      <input
        className="input mt-1 w-full"
        type="password"
        autoComplete="new-password"
        value={props.value}
        onChange={(e) => props.onChange(e.target.value)}
        required
      />
    </label>
  );
}
