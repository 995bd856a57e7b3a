import { type QueryKey, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schemas } from '../../shared/api/client';
import { AskTwice } from '../../shared/ui/AskTwice';
import { CopyButton } from '../../shared/ui/CopyButton';
import { MakeForm, Once, SelectField, TextField, Wrong } from '../../shared/ui/Form';
import { RelativeTime } from '../../shared/ui/RelativeTime';
import { Empty, Failed, Loading } from '../../shared/ui/States';
import type { Token } from './api';
import { LIFETIMES } from './model';

/** Whose tokens they are: of a project, or of a person. */
export interface TokenSource {
  queryKey: QueryKey;
  list: () => Promise<Token[]>;
  create: (token: Schemas['NewToken']) => Promise<Schemas['CreatedToken']>;
  revoke: (id: number) => Promise<void>;
  /** What to paste into a shell. */
  snippet: (secret: string) => string;
  hint: string;
  scopes: readonly (readonly [string, string])[];
}

export function TokenList({ source }: { source: TokenSource }) {
  const tokens = useQuery({ queryKey: source.queryKey, queryFn: source.list });
  return (
    <>
      {tokens.error ? null : <NewToken source={source} />}
      <div className="mt-6 overflow-x-auto rounded-box border border-base-300">
        {tokens.isPending ? <Loading lines={3} /> : null}
        {tokens.error ? <Failed error={tokens.error} /> : null}
        {tokens.data?.length === 0 ? <Empty title="There is no token yet" /> : null}
        {tokens.data?.length ? (
          <table className="table">
            <thead>
              <tr>
                <th>Name</th>
                <th>May</th>
                <th>Made</th>
                <th>Last used</th>
                <th>
                  <span className="sr-only">Revoke</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {tokens.data.map((token) => (
                <TokenRow key={token.id} source={source} token={token} />
              ))}
            </tbody>
          </table>
        ) : null}
      </div>
    </>
  );
}

function TokenRow({ source, token }: { source: TokenSource; token: Token }) {
  const client = useQueryClient();
  const revoke = useMutation({
    mutationFn: () => source.revoke(token.id),
    onSuccess: () => client.invalidateQueries({ queryKey: source.queryKey }),
  });
  return (
    <tr className={token.revokedAt ? 'text-quiet line-through' : ''}>
      <td className="max-w-60 truncate font-semibold" title={token.name}>
        {token.name} <code className="font-normal text-quiet">…{token.hint}</code>
      </td>
      <td>{token.scopes.join(', ')}</td>
      <td>
        <RelativeTime iso={token.createdAt} /> by {token.createdBy}
        {token.expiresAt ? (
          <>
            , ends <RelativeTime iso={token.expiresAt} />
          </>
        ) : null}
      </td>
      <td>{token.lastUsedAt ? <RelativeTime iso={token.lastUsedAt} /> : 'never'}</td>
      <td className="text-right">
        {token.revokedAt ? (
          'revoked'
        ) : (
          <AskTwice
            label="Revoke"
            really="Really revoke"
            disabled={revoke.isPending}
            onYes={() => revoke.mutate()}
          />
        )}
        <Wrong error={revoke.error} className="mt-1 text-sm" />
      </td>
    </tr>
  );
}

function NewToken({ source }: { source: TokenSource }) {
  const client = useQueryClient();
  const [name, setName] = useState('');
  const [scopes, setScopes] = useState<string[]>(['send', 'read']);
  const [days, setDays] = useState<number | null>(null);
  const mutation = useMutation({
    mutationFn: () => source.create({ name, scopes, days }),
    onSuccess: async () => {
      setName('');
      await client.invalidateQueries({ queryKey: source.queryKey });
    },
  });
  const toggle = (scope: string) =>
    setScopes(scopes.includes(scope) ? scopes.filter((s) => s !== scope) : [...scopes, scope]);
  const secret = mutation.data?.secret;
  return (
    <MakeForm
      title="New token"
      button="Make token"
      onSubmit={() => mutation.mutate()}
      busy={mutation.isPending || scopes.length === 0}
      error={mutation.error}
      more={
        <fieldset className="mt-3 flex flex-wrap gap-x-5 gap-y-2">
          <legend className="sr-only">What it may do</legend>
          {source.scopes.map(([scope, label]) => (
            <label key={scope} className="flex items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-sm checkbox-primary"
                checked={scopes.includes(scope)}
                onChange={() => toggle(scope)}
              />
              <span>
                <strong>{scope}</strong> <span className="text-quiet">{label}</span>
              </span>
            </label>
          ))}
        </fieldset>
      }
      made={
        secret ? (
          <Once say="Copy it now: it is not shown again.">
            <div className="mt-2 flex items-center gap-2 rounded-field bg-base-100 p-3">
              <code className="break-all">{secret}</code>
              <CopyButton text={secret} what="the token" />
            </div>
            <pre className="mt-2 rounded-field bg-base-100 p-3 break-words whitespace-pre-wrap">
              {source.snippet(secret)}
            </pre>
          </Once>
        ) : null
      }
    >
      <TextField label={source.hint} className="grow" value={name} onChange={setName} />
      <SelectField
        label="Ends"
        value={String(days ?? '')}
        onChange={(value) => setDays(value === '' ? null : Number(value))}
        options={LIFETIMES.map(([value, label]) => [String(value ?? ''), label] as const)}
      />
    </MakeForm>
  );
}
