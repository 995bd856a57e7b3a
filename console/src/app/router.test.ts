// @vitest-environment jsdom
import { QueryClient } from '@tanstack/react-query';
import { beforeAll, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../shared/api/client';
import { sessionQuery } from '../shared/session/api';
import { createAppRouter } from './router';

beforeAll(() => {
  window.scrollTo = () => undefined;
  vi.stubGlobal('matchMedia', () => ({ matches: false }));
});

async function at(address: string, signedIn: boolean) {
  const client = new QueryClient();
  const session: Schemas['Session'] | null = signedIn
    ? { login: 'ada', administrator: false, csrf: 'c' }
    : null;
  client.setQueryData(sessionQuery.queryKey, () => session);
  client.setQueryData(
    ['projects'],
    [{ key: 'skerrow', name: 'Skerrow Line', open: false, role: 'owner' }],
  );
  const router = createAppRouter(client);
  await router.navigate({ href: address });
  await router.load();
  return router.state;
}

describe('an address', () => {
  it('leads to signing in and remembers where to go on', async () => {
    const { location } = await at('/skerrow/runs/fares/nightly/12?text=round', false);
    expect(location.pathname).toBe('/sign-in');
    expect(location.search).toEqual({ to: '/skerrow/runs/fares/nightly/12?text=round' });
  });

  it('leads from the start to the first project', async () => {
    expect((await at('/', true)).location.pathname).toBe('/skerrow/today');
  });

  it('of a run is split into project, stream and number', async () => {
    const { matches } = await at('/skerrow/runs/fares/nightly/12', true);
    expect(matches.at(-1)?.params).toMatchObject({
      project: 'skerrow',
      _splat: 'fares/nightly/12',
    });
  });
});
