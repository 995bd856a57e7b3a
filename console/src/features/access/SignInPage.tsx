import { useMutation, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { sessionQuery, signIn } from './api';

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
        <label className="mt-6 block">
          <span className="text-sm font-semibold">Name</span>
          <input
            className="input mt-1 w-full"
            autoComplete="username"
            value={login}
            onChange={(e) => setLogin(e.target.value)}
            required
          />
        </label>
        <label className="mt-4 block">
          <span className="text-sm font-semibold">Password</span>
          <input
            className="input mt-1 w-full"
            type="password"
            autoComplete="current-password"
            value={password}
            onChange={(e) => setPassword(e.target.value)}
            required
          />
        </label>
        {mutation.error ? (
          <p role="alert" className="mt-4 text-error">
            {mutation.error.message}
          </p>
        ) : null}
        <button type="submit" className="btn btn-primary mt-6 w-full" disabled={mutation.isPending}>
          {mutation.isPending ? 'Signing in …' : 'Sign in'}
        </button>
      </form>
    </main>
  );
}
