import { MutationCache, QueryCache, QueryClientProvider } from '@tanstack/react-query';
import { RouterProvider } from '@tanstack/react-router';
import { again, pause } from '../shared/api/again';
import { ApiError } from '../shared/api/client';
import { FreshQueries } from '../shared/api/queries';
import { createAppRouter } from './router';

/** A session that ran out: back to signing in, and from there to this page again. */
function signInAgain(error: Error) {
  if (error instanceof ApiError && error.status === 401 && location.pathname !== '/sign-in') {
    location.assign(`/sign-in?to=${encodeURIComponent(location.pathname + location.search)}`);
  }
}

const client = new FreshQueries({
  queryCache: new QueryCache({ onError: signInAgain }),
  mutationCache: new MutationCache({ onError: signInAgain }),
  defaultOptions: {
    queries: {
      staleTime: 10_000,
      retry: again,
      retryDelay: pause,
    },
  },
});

const router = createAppRouter(client);

declare module '@tanstack/react-router' {
  interface Register {
    router: typeof router;
  }
}

export function App() {
  return (
    <QueryClientProvider client={client}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  );
}
