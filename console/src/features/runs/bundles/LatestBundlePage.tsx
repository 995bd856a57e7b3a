import { useQuery } from '@tanstack/react-query';
import { Navigate } from '@tanstack/react-router';
import { Failed, Loading } from '../../../shared/ui/States';
import { latestBundleQuery } from './api';

/** The stable address of a stream's latest bundle: leads to it in its run. */
export function LatestBundlePage(props: {
  project: string;
  stream: string;
  title: string | undefined;
}) {
  const bundle = useQuery(latestBundleQuery(props.project, props.stream, props.title));
  if (bundle.error) {
    return <Failed page error={bundle.error} retry={() => bundle.refetch()} />;
  }
  return bundle.isFetchedAfterMount && bundle.data ? (
    <Navigate
      to="/$project/runs/$"
      params={{ project: props.project, _splat: `${bundle.data.stream}/${bundle.data.run}` }}
      search={{ bundle: bundle.data.id }}
      replace
    />
  ) : (
    <Loading lines={6} />
  );
}
