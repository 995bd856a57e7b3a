// What tests of components talk to in place of a portal. To be imported before what they test: the
// API client takes `fetch` and `Request` as it is loaded.
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { configure, render } from '@testing-library/react';
import type { ReactNode } from 'react';

// What is waited for comes, however busy the machine is: a test fails by what it finds, not by when.
configure({ asyncUtilTimeout: 10_000 });

interface Call {
  method: string;
  path: string;
  ifMatch: string | null;
  body: unknown;
}

/** The portal as far as its answers go: by method and path, below the project `p` or the API. */
export const portal = {
  calls: [] as Call[],
  answers: {} as Record<string, (query: URLSearchParams) => Response | Promise<Response>>,
  reset() {
    this.calls = [];
    this.answers = {};
  },
  /** What was asked for that changes something. */
  changes() {
    return this.calls.filter((call) => call.method !== 'GET');
  },
};

// A page's relative addresses have a page to be of.
const Plain = globalThis.Request;
globalThis.Request = class extends Plain {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(typeof input === 'string' ? new URL(input, 'http://portal.example') : input, init);
  }
};

globalThis.fetch = async (asked) => {
  const request = asked as Request;
  const url = new URL(request.url, 'http://portal.example');
  const path = url.pathname.replace(/^\/api\/v1\/(projects\/p\/)?/, '');
  const text = await request.text();
  portal.calls.push({
    method: request.method,
    path,
    ifMatch: request.headers.get('If-Match'),
    body: text === '' ? null : JSON.parse(text),
  });
  const answer = portal.answers[`${request.method} ${path}`];
  return answer
    ? answer(url.searchParams)
    : json({ detail: `nothing at ${path}` }, { status: 404 });
};

export function json(body: unknown, init: ResponseInit = {}): Response {
  return new Response(JSON.stringify(body), {
    status: 200,
    ...init,
    headers: { 'Content-Type': 'application/json', ...init.headers },
  });
}

/** An answer of JSON values, one a line, as far as it has come. */
export function lines(values: unknown[] | ReadableStream<Uint8Array>): Response {
  const body = Array.isArray(values)
    ? values.map((one) => `${JSON.stringify(one)}\n`).join('')
    : values;
  return new Response(body, { headers: { 'Content-Type': 'application/x-ndjson' } });
}

export function show(what: ReactNode) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  render(<QueryClientProvider client={client}>{what}</QueryClientProvider>);
}
