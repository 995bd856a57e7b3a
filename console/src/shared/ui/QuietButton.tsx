import type { LucideIcon } from 'lucide-react';

/** Something that can be done, as a word among others. */
export function QuietButton(props: { icon: LucideIcon; word: string; onClick: () => void }) {
  const { icon: Icon } = props;
  return (
    <button
      type="button"
      className="link-hover inline-flex items-center gap-1 text-sm text-quiet"
      onClick={props.onClick}
    >
      <Icon size={14} aria-hidden /> {props.word}
    </button>
  );
}
