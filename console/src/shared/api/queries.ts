import {
  type InvalidateOptions,
  type InvalidateQueryFilters,
  QueryClient,
} from '@tanstack/react-query';

/**
 * What is asked for the first time while something changes may be answered as it was before: it is
 * asked again when the answer is there. The library only does so where there was an answer before.
 */
export class FreshQueries extends QueryClient {
  override async invalidateQueries(
    filters?: InvalidateQueryFilters,
    options?: InvalidateOptions,
  ): Promise<void> {
    const first = this.getQueryCache()
      .findAll(filters)
      .filter((query) => query.state.data === undefined && query.state.fetchStatus !== 'idle');
    await super.invalidateQueries(filters, options);
    if (first.length > 0) {
      await super.invalidateQueries({ predicate: (query) => first.includes(query) }, options);
    }
  }
}
