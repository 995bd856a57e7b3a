import { createToken } from '../../shared/session/api';
import { fetchTokens, revokeToken } from './api';
import { accessKeys } from './keys';
import { SCOPES } from './model';
import { TokenList } from './TokenList';

export function TokensPage({ project }: { project: string }) {
  return (
    <main className="mx-auto w-full max-w-4xl overflow-y-auto p-8">
      <h1 className="font-serif text-3xl">Tokens</h1>
      <p className="mt-1 text-quiet">
        A pipeline sends its results with a token. Each is for this project only, and can be
        revoked.
      </p>
      <TokenList
        source={{
          queryKey: accessKeys.tokens(project),
          list: () => fetchTokens(project),
          create: (token) => createToken(project, token),
          revoke: (id) => revokeToken(project, id),
          scopes: SCOPES,
          snippet: (secret) =>
            `export VINE_URL=${location.origin} VINE_TOKEN=${secret}\nvine push 'target/surefire-reports/*.xml' --stream booking-api/nightly`,
          hint: 'Name, such as the pipeline that will use it',
        }}
      />
    </main>
  );
}
