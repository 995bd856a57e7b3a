import { ChevronDown, ChevronUp } from 'lucide-react';
import { plural } from '../../../shared/lib/format';
import type { Category } from '../../../shared/triage/api';
import { CategoryMark } from '../../../shared/triage/CategoryMark';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import type { Rule } from './api';
import { condition } from './model';

/** A rule in the list. */
export function RuleRow(props: {
  rule: Rule;
  place: number;
  selected: boolean;
  categories: Category[] | undefined;
  onChoose: () => void;
  onUp: (() => void) | undefined;
  onDown: (() => void) | undefined;
}) {
  const { rule } = props;
  return (
    <div
      className={`flex items-stretch border-l-[3px] ${
        props.selected ? 'border-primary bg-base-200' : 'border-transparent hover:bg-base-200/60'
      }`}
    >
      <button
        type="button"
        aria-current={props.selected}
        onClick={props.onChoose}
        className="flex min-w-0 grow gap-3 py-2.5 pl-4 text-left"
      >
        <span className="w-5 shrink-0 text-right text-quiet tabular-nums">{props.place}</span>
        <span className="min-w-0 grow">
          <span className="flex items-baseline gap-3">
            <span className={`min-w-0 grow truncate ${rule.on ? 'font-semibold' : 'text-quiet'}`}>
              {rule.name}
            </span>
            <span className="text-sm">
              <CategoryMark name={rule.category} categories={props.categories} />
            </span>
          </span>
          <code className="block truncate text-[13px] text-quiet">{condition(rule)}</code>
          <span className="block truncate text-[13px]">
            <State rule={rule} />
          </span>
        </span>
      </button>
      <span className="flex w-8 shrink-0 flex-col justify-center">
        <Step
          label={`Ask “${rule.name}” earlier`}
          icon={<ChevronUp size={15} />}
          act={props.onUp}
        />
        <Step
          label={`Ask “${rule.name}” later`}
          icon={<ChevronDown size={15} />}
          act={props.onDown}
        />
      </span>
    </div>
  );
}

function State({ rule }: { rule: Rule }) {
  if (rule.trouble) {
    return <span className="text-errored">Could not be asked: {rule.trouble}</span>;
  }
  const said =
    rule.explained > 0 && rule.last ? (
      <>
        explained {plural(rule.explained, 'failure')}, last in a run of{' '}
        <RelativeTime iso={rule.last} />
      </>
    ) : undefined;
  if (!rule.on) {
    return (
      <span className="text-quiet">
        Off{said ? ' · ' : ''}
        {said}
      </span>
    );
  }
  return said ? (
    <span className="text-quiet first-letter:uppercase">On · {said}</span>
  ) : (
    <span className="text-errored">On, and has never explained anything</span>
  );
}

function Step(props: { label: string; icon: React.ReactNode; act: (() => void) | undefined }) {
  return (
    <button
      type="button"
      aria-label={props.label}
      title={props.label}
      disabled={props.act === undefined}
      onClick={props.act}
      className="flex justify-center rounded py-0.5 text-quiet hover:bg-base-300/60 hover:text-base-content disabled:invisible"
    >
      {props.icon}
    </button>
  );
}
