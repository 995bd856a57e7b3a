import { useQuery } from '@tanstack/react-query';
import { Empty, Failed, Loading } from '../../../shared/ui/States';
import { comparisonQuery, type Difference, type Run } from '../api';
import { VariantWords } from '../components/VariantWords';
import { changeWords, displayName } from '../model';

/** What differs from a run that somebody chose, change by change. */
export function DifferenceList(props: {
  project: string;
  run: Run;
  against: number;
  selected: string | undefined;
  onSelect: (result: string) => void;
}) {
  const found = useQuery(comparisonQuery(props.project, props.run, props.against));
  if (found.isPending) {
    return <Loading />;
  }
  if (found.error) {
    return <Failed error={found.error} />;
  }
  const words = changeWords(found.data.changes);
  if (words.length === 0) {
    return <Empty title="Nothing differs">Every test came out as in #{props.against}.</Empty>;
  }
  return (
    <div className="min-h-0 grow overflow-y-auto">
      {words.map((word) => {
        const some = found.data.differences.filter((one) => one.change === word.change);
        return (
          <section key={word.change} aria-label={word.change}>
            <h2 className="sticky top-0 bg-base-100 px-4 py-2 font-semibold">
              {word.text}
              {some.length < word.count ? (
                <span className="font-normal text-quiet"> (the first {some.length})</span>
              ) : null}
            </h2>
            <ul>
              {some.map((one) => (
                <Row key={one.testId} one={one} {...props} />
              ))}
            </ul>
          </section>
        );
      })}
    </div>
  );
}

function Row(props: {
  one: Difference;
  against: number;
  selected: string | undefined;
  onSelect: (result: string) => void;
}) {
  const { one } = props;
  const result = one.resultId;
  const name = (
    <span className="flex items-baseline gap-2">
      <span className="truncate" title={displayName(one)}>
        {displayName(one)}
      </span>
      <VariantWords variant={one.variant} short />
    </span>
  );
  return (
    <li
      className={`border-t border-base-300/70 px-4 py-2 ${
        result !== null && result === props.selected ? 'bg-base-200' : ''
      }`}
    >
      {result === null ? (
        name
      ) : (
        <button
          type="button"
          className="link-hover w-full min-w-0 text-left"
          onClick={() => props.onSelect(result)}
        >
          {name}
        </button>
      )}
      <p className="truncate text-[13px] text-quiet">{one.suite.join(' › ')}</p>
      <p className="text-[13px] text-quiet">
        {one.before ?? 'not there'} in #{props.against}, {one.now ?? 'not there'} now
      </p>
    </li>
  );
}
