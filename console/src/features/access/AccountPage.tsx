import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { TextField, Wrong } from '../../shared/ui/Form';
import { RelativeTime } from '../../shared/ui/RelativeTime';
import { Failed, Loading } from '../../shared/ui/States';
import {
  changePassword,
  createOwnToken,
  endSession,
  fetchOwnTokens,
  revokeOwnToken,
  sessionsQuery,
  signOutElsewhere,
} from './api';
import { accessKeys } from './keys';
import { agentWords, OWN_SCOPES } from './model';
import { differs, NewPassword } from './NewPassword';
import { TokenList } from './TokenList';

/** What somebody can do about the own account. */
export function AccountPage({ login }: { login: string }) {
  return (
    <main className="mx-auto w-full max-w-4xl overflow-y-auto p-8">
      <h1 className="font-serif text-3xl">Account</h1>
      <p className="mt-1 text-quiet">
        Signed in as <strong className="text-base-content">{login}</strong>.
      </p>
      <PasswordForm login={login} />
      <h2 className="mt-10 font-serif text-2xl">Where you are signed in</h2>
      <Sessions />
      <h2 className="mt-10 font-serif text-2xl">Your own tokens</h2>
      <p className="mt-1 text-quiet">
        For the command line. They are good in all projects of yours, for as much as you may there;
        what is done with one is told under your name.
      </p>
      <TokenList
        source={{
          queryKey: accessKeys.ownTokens,
          list: fetchOwnTokens,
          create: createOwnToken,
          revoke: revokeOwnToken,
          scopes: OWN_SCOPES,
          snippet: (secret) =>
            `export VINE_URL=${location.origin} VINE_TOKEN=${secret} VINE_PROJECT=…\nvine runs booking-api/nightly`,
          hint: 'Name, such as the machine that will use it',
        }}
      />
    </main>
  );
}

function Sessions() {
  const client = useQueryClient();
  const sessions = useQuery(sessionsQuery);
  const refresh = () => client.invalidateQueries(sessionsQuery);
  const end = useMutation({ mutationFn: endSession, onSettled: refresh });
  const endAll = useMutation({ mutationFn: signOutElsewhere, onSettled: refresh });
  const error = end.error ?? endAll.error;
  return (
    <div className="mt-3 rounded-box border border-base-300">
      {sessions.isPending ? <Loading lines={2} /> : null}
      {sessions.error ? <Failed error={sessions.error} /> : null}
      <ul className="divide-y divide-base-300">
        {sessions.data?.map((one) => (
          <li key={one.id} className="flex flex-wrap items-baseline gap-3 px-4 py-2">
            <span className="font-semibold" title={one.agent}>
              {agentWords(one.agent)}
            </span>
            <span className="text-quiet">
              from {one.address}, since <RelativeTime iso={one.createdAt} />, last seen{' '}
              <RelativeTime iso={one.lastSeenAt} />
            </span>
            {one.here ? (
              <span className="ml-auto">here</span>
            ) : (
              <button
                type="button"
                className="btn btn-sm ml-auto"
                disabled={end.isPending}
                onClick={() => end.mutate(one.id)}
              >
                Sign out there
              </button>
            )}
          </li>
        ))}
      </ul>
      {sessions.data && sessions.data.length > 1 ? (
        <div className="border-t border-base-300 px-4 py-3">
          <button
            type="button"
            className="btn btn-sm"
            disabled={endAll.isPending}
            onClick={() => endAll.mutate()}
          >
            Sign out everywhere else
          </button>
        </div>
      ) : null}
      <Wrong error={error} className="px-4 pb-3" />
    </div>
  );
}

const EMPTY = { next: '', again: '' };

function PasswordForm({ login }: { login: string }) {
  const [present, setPresent] = useState('');
  const [typed, setTyped] = useState(EMPTY);
  const mutation = useMutation({
    mutationFn: () => changePassword(present, typed.next),
    onSuccess: () => {
      setPresent('');
      setTyped(EMPTY);
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!differs(typed)) {
      mutation.mutate();
    }
  };
  return (
    <form
      onSubmit={submit}
      onChange={() => mutation.reset()}
      className="mt-6 max-w-md rounded-box border border-base-300 bg-base-200 p-5"
    >
      <h2 className="font-serif text-xl">Change the password</h2>
      <p className="mt-1 text-sm text-quiet">At least 12 characters. Other sign-ins end.</p>
      <input type="hidden" autoComplete="username" value={login} readOnly />
      <TextField
        label="Present password"
        type="password"
        autoComplete="current-password"
        className="mt-4"
        value={present}
        onChange={setPresent}
      />
      <NewPassword
        label="New password"
        again="New password again"
        value={typed}
        onChange={setTyped}
      />
      <Wrong error={mutation.error} />
      {mutation.isSuccess ? (
        <p role="status" className="mt-3">
          The password is changed.
        </p>
      ) : null}
      <button
        type="submit"
        className="btn btn-primary mt-5"
        disabled={mutation.isPending || differs(typed)}
      >
        Change password
      </button>
    </form>
  );
}
