import { queryOptions } from '@tanstack/react-query';
import { api, type Schemas, unwrap } from '../../shared/api/client';

export type Operations = Schemas['Operations'];

export const operationsQuery = queryOptions({
  queryKey: ['operations'],
  queryFn: () => unwrap(api.GET('/api/v1/operations')),
  refetchInterval: 3_000,
});
