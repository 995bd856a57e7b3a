import { useQuery } from '@tanstack/react-query';
import { Failed, Loading } from '../../../shared/ui/States';
import { goneQuery, type Run } from '../api';
import { VariantWords } from '../components/VariantWords';
import { displayName } from '../model';

/** Tests that the previous run had and this one has not. */
export function GoneList({ project, run }: { project: string; run: Run }) {
  const gone = useQuery(goneQuery(project, run));
  if (gone.isPending) {
    return <Loading />;
  }
  if (gone.error) {
    return <Failed error={gone.error} />;
  }
  return (
    <div className="min-h-0 grow overflow-y-auto">
      <p className="px-4 py-2 text-quiet">
        In #{run.previousNumber}, and not in this run
        {gone.data.length < run.changes.gone
          ? ` (the first ${gone.data.length} of ${run.changes.gone})`
          : ''}
        :
      </p>
      <ul>
        {gone.data.map((test) => (
          <li key={test.testId} className="border-t border-base-300/70 px-4 py-2">
            <p className="flex items-baseline gap-2">
              <span className="truncate" title={displayName(test)}>
                {displayName(test)}
              </span>
              <VariantWords variant={test.variant} short />
            </p>
            <p className="truncate text-[13px] text-quiet">{test.suite.join(' › ')}</p>
          </li>
        ))}
      </ul>
    </div>
  );
}
