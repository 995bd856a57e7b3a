import { plural } from '../../../shared/lib/format';
import type { TestHistory } from '../api';
import type { TestsSearch } from '../model';

/** The test on whose place in the run it depends. */
export function RanBefore(props: {
  order: TestHistory['order'];
  onChange: (next: Partial<TestsSearch>) => void;
}) {
  const { order } = props;
  if (order === null) {
    return null;
  }
  return (
    <div>
      <h3 className="font-semibold">It depends on what ran before it</h3>
      <p className="mt-1 text-sm break-words">
        Failed in {order.failedWith} of {plural(order.with, 'run')} in which{' '}
        <button
          type="button"
          className="link text-left"
          onClick={() => props.onChange({ test: order.id })}
        >
          {order.test}
        </button>{' '}
        {order.whenBefore ? 'ran' : 'had not run'} shortly before it, and in {order.failedWithout}{' '}
        of {order.without} others.
      </p>
    </div>
  );
}
