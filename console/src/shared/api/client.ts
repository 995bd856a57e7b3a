import createClient, { type Middleware } from 'openapi-fetch';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];

/** What went wrong, in the portal's own words. */
export class ApiError extends Error {
  readonly status: number;

  constructor(status: number, message: string) {
    super(message);
    this.status = status;
  }
}

let csrf = '';

/** Changing requests repeat what signing in told. */
export function rememberCsrf(value: string): void {
  csrf = value;
}

const middleware: Middleware = {
  onRequest({ request }) {
    if (request.method !== 'GET' && csrf) {
      request.headers.set('X-Vine-Csrf', csrf);
    }
    return request;
  },
};

interface Problem {
  status?: number | null;
  detail?: string | null;
}

/** What a part of an answer tells in place of what was asked for. */
export function problemOf({ status, detail }: Problem): ApiError {
  return new ApiError(status ?? 500, detail ?? `The portal answered with status ${status}.`);
}

export const api = createClient<paths>({ baseUrl: '/' });
api.use(middleware);

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The body of a good answer; otherwise throws what the portal said. */
export async function unwrap<T>(call: Promise<Answer<T>>): Promise<T> {
  const { data, response } = await answered(call);
  if (data === undefined) {
    throw new ApiError(response.status, 'The answer is empty.');
  }
  return data;
}

/** A good answer with its entity tag, which a later change has to name. */
export async function unwrapTagged<T>(call: Promise<Answer<T>>): Promise<{ data: T; tag: string }> {
  const { data, response } = await answered(call);
  if (data === undefined) {
    throw new ApiError(response.status, 'The answer is empty.');
  }
  return { data, tag: response.headers.get('ETag') ?? '' };
}

/** For answers without a body. */
export async function done(call: Promise<Answer<unknown>>): Promise<void> {
  await answered(call);
}

export interface Page<T> {
  items: T[];
  next: string | undefined;
}

/** A page of a list, with the cursor of the next one from the Link header. */
export async function unwrapPage<T>(call: Promise<Answer<T[]>>): Promise<Page<T>> {
  const { data, response } = await answered(call);
  const link = response.headers.get('Link');
  const target = link?.match(/<([^>]+)>; rel="next"/)?.[1];
  const next = target ? new URL(target, location.href).searchParams.get('cursor') : null;
  return { items: data ?? [], next: next ?? undefined };
}

async function answered<T>(call: Promise<Answer<T>>): Promise<Answer<T>> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    throw new ApiError(0, 'The portal does not answer. Is it running, and is the network up?');
  }
  if (!answer.response.ok) {
    const problem = answer.error as { detail?: string } | undefined;
    throw new ApiError(
      answer.response.status,
      problem?.detail ?? `The portal answered with status ${answer.response.status}.`,
    );
  }
  return answer;
}
