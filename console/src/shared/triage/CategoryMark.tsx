import type { Category } from './api';

/** The colours of categories, by their names in the API. */
export const COLOURS: Record<string, string> = {
  claret: 'bg-claret',
  oak: 'bg-oak',
  slate: 'bg-slate',
  amber: 'bg-amber',
  teal: 'bg-teal',
  plum: 'bg-plum',
  moss: 'bg-moss',
  ink: 'bg-ink',
};

/** A category: a bar of its colour, and its name. */
export function CategoryMark(props: { name: string; categories: Category[] | undefined }) {
  const colour = props.categories?.find((one) => one.name === props.name)?.colour;
  return (
    <span className="inline-flex shrink-0 items-baseline gap-1.5 font-semibold">
      <span
        aria-hidden
        className={`inline-block h-3.5 w-1 self-center rounded-full ${COLOURS[colour ?? ''] ?? 'bg-slate'}`}
      />
      {props.name}
    </span>
  );
}
