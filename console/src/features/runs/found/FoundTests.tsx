import { useInfiniteQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { plural } from '../../../shared/lib/format';
import { foundTestsQuery } from '../api';
import { VariantWords } from '../components/VariantWords';
import { displayName } from '../model';
import { FoundList } from './FoundList';

/** Tests of all streams, those that came first first: also such as no run has any more. */
export function FoundTests({ project, filter }: { project: string; filter: string }) {
  return (
    <FoundList
      query={useInfiniteQuery(foundTestsQuery(project, filter))}
      label="Tests"
      none="No test fits"
      first={(number) => `The first ${plural(number, 'test')}`}
      more="Further tests"
    >
      {(test) => (
        <>
          <p className="flex items-baseline gap-2">
            <Link
              to="/$project/tests"
              params={{ project }}
              search={{ test: test.id }}
              className="link-hover min-w-0 truncate font-semibold"
              title={displayName(test)}
            >
              {displayName(test)}
            </Link>
            <VariantWords variant={test.variant} short />
            {test.file ? (
              <span
                className="ml-auto max-w-[40%] shrink-0 truncate text-[13px] text-quiet"
                title={test.file}
              >
                {test.file}
              </span>
            ) : null}
          </p>
          <p className="truncate text-[13px] text-quiet" title={test.suite.join(' › ')}>
            {test.suite.join(' › ')}
          </p>
        </>
      )}
    </FoundList>
  );
}
