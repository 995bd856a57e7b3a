import { Package, Play, UserRound } from 'lucide-react';
import { runAbout } from '../model';

/** Who or what started a run, what was tested, and who tested it. */
export function RunAbout({ labels }: { labels: Record<string, string> }) {
  const { started, tested, tester } = runAbout(labels);
  const facts = [
    { name: 'Started by', icon: Play, text: started },
    { name: 'Tested', icon: Package, text: tested },
    { name: 'Tester', icon: UserRound, text: tester },
  ];
  return facts.map(({ name, icon: Icon, text }) =>
    text ? (
      <span
        key={name}
        className="inline-flex min-w-0 items-center gap-1"
        title={`${name}: ${text}`}
      >
        <Icon size={14} aria-label={name} className="shrink-0" />
        <span className="max-w-60 truncate">{text}</span>
      </span>
    ) : null,
  );
}
