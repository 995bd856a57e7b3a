// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import { ApiError, done, unwrap, unwrapPage } from './client';

const answer = <T>(status: number, data?: T, error?: unknown, headers?: HeadersInit) =>
  Promise.resolve({
    ...(data === undefined ? {} : { data }),
    ...(error === undefined ? {} : { error }),
    response: new Response(null, { status, ...(headers ? { headers } : {}) }),
  });

const thrown = async (promise: Promise<unknown>): Promise<ApiError> => {
  const error = await promise.then(
    () => undefined,
    (e: unknown) => e,
  );
  expect(error).toBeInstanceOf(ApiError);
  return error as ApiError;
};

describe('an answer', () => {
  it('is its body when it is good', async () => {
    expect(await unwrap(answer(200, { a: 1 }))).toEqual({ a: 1 });
  });

  it('needs no body when none is wanted', async () => {
    await done(answer(204));
    expect((await thrown(unwrap(answer(200)))).message).toBe('The answer is empty.');
  });

  it('fails in the words of the portal', async () => {
    const error = await thrown(
      unwrap(answer(409, undefined, { detail: 'The key “fares” is taken.' })),
    );
    expect(error.message).toBe('The key “fares” is taken.');
    expect(error.status).toBe(409);
  });

  it('fails with its status when something in between answered', async () => {
    const error = await thrown(unwrap(answer(502, undefined, '<html>Bad Gateway</html>')));
    expect(error.message).toBe('The portal answered with status 502.');
  });

  it('says so when the portal does not answer at all', async () => {
    const error = await thrown(unwrap(Promise.reject(new TypeError('Failed to fetch'))));
    expect(error.status).toBe(0);
    expect(error.message).toMatch(/^The portal does not answer/);
  });
});

describe('a page of a list', () => {
  const page = (link?: string) =>
    unwrapPage(answer(200, ['a'], undefined, link ? { Link: link } : undefined));

  it.each([
    ['</api/v1/projects/main/runs?limit=50&cursor=Zm9v>; rel="next"', 'Zm9v'],
    ['<http://portal.example/api/v1/x?cursor=a%2Bb>; rel="next"', 'a+b'],
    ['</api/v1/x?cursor=Zm9v>; rel="prev"', undefined],
    ['</api/v1/x>; rel="next"', undefined],
    [undefined, undefined],
  ])('with the link %s goes on at %s', async (link, next) => {
    expect(await page(link)).toEqual({ items: ['a'], next });
  });
});
