import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { ApiError } from '../../shared/api/client';
import { exactTime } from '../../shared/lib/format';
import { sessionQuery } from '../../shared/session/api';
import { Wrong } from '../../shared/ui/Form';
import { Empty, Loading } from '../../shared/ui/States';
import { accessKeys } from './keys';
import { differs, NewPassword } from './NewPassword';
import { join, lookAtInvitation } from './people';

/** What is answered so stays so; anything else may go better in a moment. */
function isRefused(error: Error): boolean {
  return error instanceof ApiError && (error.status === 404 || error.status === 400);
}

/** Where the link of an invitation leads; its secret stands behind the “#”, which no server sees. */
export function JoinPage({ secret, onSignedIn }: { secret: string; onSignedIn: () => void }) {
  const client = useQueryClient();
  const session = useQuery(sessionQuery);
  const [typed, setTyped] = useState({ next: '', again: '' });
  const invitation = useQuery({
    queryKey: accessKeys.invitation(secret),
    queryFn: () => lookAtInvitation(secret),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const mutation = useMutation({
    mutationFn: () => join(secret, typed.next),
    onSuccess: (session) => {
      client.clear();
      client.setQueryData(sessionQuery.queryKey, session);
      onSignedIn();
    },
  });
  if (invitation.error) {
    return (
      <Empty
        title={
          isRefused(invitation.error)
            ? 'This link cannot be used'
            : 'This link cannot be looked at now'
        }
        page
      >
        {invitation.error.message}
      </Empty>
    );
  }
  if (!invitation.data) {
    return <Loading lines={4} />;
  }
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!differs(typed)) {
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
        {session.data ? (
          <p role="status" className="mt-3 rounded-field bg-base-200 p-3">
            You are signed in as <strong>{session.data.login}</strong> here. Going on signs you in
            as {invitation.data.login} instead.
          </p>
        ) : null}
        <input type="hidden" autoComplete="username" value={invitation.data.login} readOnly />
        <NewPassword
          label="Password, at least 12 characters"
          again="Password again"
          value={typed}
          onChange={setTyped}
        />
        <Wrong error={mutation.error} />
        <button
          type="submit"
          className="btn btn-primary mt-6 w-full"
          disabled={mutation.isPending || differs(typed)}
        >
          {mutation.isPending ? 'A moment …' : 'Go on'}
        </button>
      </form>
    </main>
  );
}
