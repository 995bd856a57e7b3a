import { variantWord } from '../model';

/** What tells a test apart from others of its name: short in lists, with its keys elsewhere. */
export function VariantWords({
  variant,
  short = false,
}: {
  variant: Record<string, string>;
  short?: boolean;
}) {
  return Object.entries(variant).map(([key, value]) => (
    <span
      key={key}
      title={`${key}=${value}`}
      className="badge badge-xs badge-outline max-w-40 shrink-0 border-base-content/30"
    >
      <span className="truncate">{short ? variantWord(key, value) : `${key}=${value}`}</span>
    </span>
  ));
}
