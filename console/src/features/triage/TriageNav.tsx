import { Link } from '@tanstack/react-router';

const WORD = {
  className: 'border-b-2 py-0.5',
  activeProps: { className: 'border-primary font-semibold text-primary' },
  inactiveProps: { className: 'border-transparent text-quiet hover:text-base-content' },
  activeOptions: { exact: true, includeSearch: false },
} as const;

/** Between the desk and what works for it. */
export function TriageNav({ project }: { project: string }) {
  const params = { project };
  return (
    <nav aria-label="Triage" className="mr-4 flex gap-4 text-sm">
      <Link to="/$project/triage" params={params} {...WORD}>
        Desk
      </Link>
      <Link to="/$project/triage/rules" params={params} {...WORD}>
        Rules
      </Link>
      <Link to="/$project/triage/categories" params={params} {...WORD}>
        Categories
      </Link>
      <Link to="/$project/triage/code" params={params} {...WORD}>
        Code
      </Link>
      <Link to="/$project/triage/tracker" params={params} {...WORD}>
        Tracker
      </Link>
    </nav>
  );
}
