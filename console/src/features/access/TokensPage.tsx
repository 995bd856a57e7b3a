import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { CopyButton } from '../../shared/ui/CopyButton';
import { RelativeTime } from '../../shared/ui/RelativeTime';
import { Failed, Loading } from '../../shared/ui/States';
import { createToken, revokeToken, type Token, tokensQuery } from './api';

export function TokensPage({ project }: { project: string }) {
  const tokens = useQuery(tokensQuery(project));
  return (
    <main className="mx-auto w-full max-w-4xl overflow-y-auto p-8">
      <h1 className="font-serif text-3xl">Tokens</h1>
      <p className="mt-1 text-quiet">
        A pipeline sends its results with a token. Each is for this project only, and can be
        revoked.
      </p>
      <NewToken project={project} />
      <div className="mt-6 overflow-x-auto rounded-box border border-base-300">
        {tokens.isPending ? <Loading lines={3} /> : null}
        {tokens.error ? <Failed error={tokens.error} /> : null}
        {tokens.data ? (
          <table className="table">
            <thead>
              <tr>
                <th>Name</th>
                <th>Ends in</th>
                <th>Made</th>
                <th>Last used</th>
                <th>
                  <span className="sr-only">Revoke</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {tokens.data.map((token) => (
                <TokenRow key={token.id} project={project} token={token} />
              ))}
            </tbody>
          </table>
        ) : null}
      </div>
    </main>
  );
}

function TokenRow({ project, token }: { project: string; token: Token }) {
  const client = useQueryClient();
  const [asked, setAsked] = useState(false);
  const revoke = useMutation({
    mutationFn: () => revokeToken(project, token.id),
    onSuccess: () => client.invalidateQueries(tokensQuery(project)),
  });
  return (
    <tr className={token.revokedAt ? 'text-quiet line-through' : ''}>
      <td className="max-w-60 truncate font-semibold" title={token.name}>
        {token.name}
      </td>
      <td>
        <code>…{token.hint}</code>
      </td>
      <td>
        <RelativeTime iso={token.createdAt} /> by {token.createdBy}
      </td>
      <td>{token.lastUsedAt ? <RelativeTime iso={token.lastUsedAt} /> : 'never'}</td>
      <td className="text-right">
        {token.revokedAt ? (
          'revoked'
        ) : asked ? (
          <span className="inline-flex gap-2">
            <button
              type="button"
              className="btn btn-error btn-sm"
              onClick={() => revoke.mutate()}
              disabled={revoke.isPending}
            >
              Really revoke
            </button>
            <button type="button" className="btn btn-sm" onClick={() => setAsked(false)}>
              Keep
            </button>
          </span>
        ) : (
          <button type="button" className="btn btn-sm" onClick={() => setAsked(true)}>
            Revoke
          </button>
        )}
        {revoke.error ? (
          <p role="alert" className="mt-1 text-sm text-error">
            {revoke.error.message}
          </p>
        ) : null}
      </td>
    </tr>
  );
}

function NewToken({ project }: { project: string }) {
  const client = useQueryClient();
  const [name, setName] = useState('');
  const mutation = useMutation({
    mutationFn: () => createToken(project, name),
    onSuccess: async () => {
      setName('');
      await client.invalidateQueries(tokensQuery(project));
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    mutation.mutate();
  };
  const secret = mutation.data?.secret;
  return (
    <form onSubmit={submit} className="mt-6 rounded-box border border-base-300 bg-base-200 p-5">
      <h2 className="font-serif text-xl">New token</h2>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <label className="grow">
          <span className="text-sm font-semibold">Name, such as the pipeline that will use it</span>
          <input
            className="input mt-1 w-full"
            value={name}
            onChange={(e) => setName(e.target.value)}
            required
          />
        </label>
        <button type="submit" className="btn btn-primary" disabled={mutation.isPending}>
          Make token
        </button>
      </div>
      {mutation.error ? (
        <p role="alert" className="mt-3 text-error">
          {mutation.error.message}
        </p>
      ) : null}
      {secret ? (
        <div role="status" className="mt-4">
          <p className="font-semibold">Copy it now: it is not shown again.</p>
          <div className="mt-2 flex items-center gap-2 rounded-field bg-base-100 p-3">
            <code className="break-all">{secret}</code>
            <CopyButton text={secret} what="the token" />
          </div>
          <pre className="mt-2 rounded-field bg-base-100 p-3 break-words whitespace-pre-wrap">
            {`export VINE_URL=${location.origin} VINE_TOKEN=${secret}\nvine push 'target/surefire-reports/*.xml' --stream booking-api/nightly`}
          </pre>
        </div>
      ) : null}
    </form>
  );
}
