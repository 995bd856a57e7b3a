import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { sessionQuery } from '../../shared/session/api';
import { TextField, Wrong } from '../../shared/ui/Form';
import { signIn } from './api';

export function SignInPage({ onSignedIn }: { onSignedIn: () => void }) {
  const client = useQueryClient();
  const [login, setLogin] = useState('');
  const [password, setPassword] = useState('');
  const mutation = useMutation({
    mutationFn: () => signIn(login, password),
    onSuccess: (session) => {
      client.clear();
      client.setQueryData(sessionQuery.queryKey, session);
      onSignedIn();
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    mutation.mutate();
  };
  return (
    <main className="flex min-h-full items-center justify-center bg-base-200 p-6">
      <form
        onSubmit={submit}
        className="w-full max-w-sm rounded-box border border-base-300 bg-base-100 p-8 shadow-sm"
      >
        <img src="/favicon.svg" alt="" width={44} height={44} />
        <h1 className="mt-4 font-serif text-3xl">Vine Cellar</h1>
        <p className="mt-1 text-quiet">Nobody explains the same failure twice.</p>
        <TextField
          label="Name"
          autoComplete="username"
          className="mt-6"
          value={login}
          onChange={setLogin}
        />
        <TextField
          label="Password"
          type="password"
          autoComplete="current-password"
          className="mt-4"
          value={password}
          onChange={setPassword}
        />
        <Wrong error={mutation.error} className="mt-4" />
        <button type="submit" className="btn btn-primary mt-6 w-full" disabled={mutation.isPending}>
          {mutation.isPending ? 'Signing in …' : 'Sign in'}
        </button>
      </form>
    </main>
  );
}
