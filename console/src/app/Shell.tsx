import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, Outlet, useNavigate, useParams } from '@tanstack/react-router';
import { ChevronDown, Moon, Sun, UserRound } from 'lucide-react';
import { useState } from 'react';
import { signOut } from '../features/access/api';
import { chooseTheme, storedTheme } from '../shared/lib/theme';
import { projectsQuery, sessionQuery } from '../shared/session/api';
import { useOwns } from '../shared/session/may';
import { KeysDialog } from './KeysDialog';

const AREA = {
  className: 'flex items-center border-y-2 border-t-transparent px-3 font-semibold',
  activeProps: { className: 'border-b-primary text-primary' },
  inactiveProps: { className: 'border-b-transparent' },
} as const;

/** The frame of every page: project left, areas in the middle, account right. */
export function Shell() {
  const { project } = useParams({ strict: false });
  return (
    <div className="flex h-full flex-col print:block print:h-auto">
      <a href="#content" className="btn sr-only print:hidden focus:not-sr-only">
        To the content
      </a>
      <header className="flex shrink-0 items-center gap-5 print:hidden border-b border-base-300 bg-base-200 px-5">
        <Link to="/" className="flex items-center gap-2 py-2.5" aria-label="Vine Cellar, start">
          <img src="/favicon.svg" alt="" width={26} height={26} />
          <span className="font-serif text-lg max-[900px]:hidden">Vine Cellar</span>
        </Link>
        <ProjectSwitch current={project} />
        <nav aria-label="Areas" className="flex items-stretch self-stretch">
          {project ? (
            <>
              <Link to="/$project/today" params={{ project }} {...AREA}>
                Today
              </Link>
              <Link to="/$project/runs" params={{ project }} {...AREA}>
                Runs
              </Link>
              <Link to="/$project/triage" params={{ project }} {...AREA}>
                Triage
              </Link>
              <Link to="/$project/tests" params={{ project }} {...AREA}>
                Tests
              </Link>
              <Link to="/$project/boards" params={{ project }} {...AREA}>
                Boards
              </Link>
            </>
          ) : null}
        </nav>
        <div className="ml-auto flex items-center gap-1">
          <KeysDialog />
          <ThemeSwitch />
          <AccountMenu project={project} />
        </div>
      </header>
      <div id="content" className="flex min-h-0 grow flex-col print:block">
        <Outlet />
      </div>
    </div>
  );
}

function ProjectSwitch({ current }: { current: string | undefined }) {
  const projects = useQuery(projectsQuery);
  const name = projects.data?.find((project) => project.key === current)?.name;
  return (
    <details className="dropdown">
      <summary className="btn btn-ghost btn-sm max-w-56 gap-1 text-base font-semibold">
        <span className="truncate">{name ?? 'Projects'}</span>
        <ChevronDown size={15} aria-hidden />
      </summary>
      <ul className="menu dropdown-content z-20 mt-1 w-64 rounded-box border border-base-300 bg-base-100 shadow-md">
        {projects.data?.map((project) => (
          <li key={project.key}>
            <Link to="/$project/runs" params={{ project: project.key }} onClick={closeMenu}>
              <span className="truncate">{project.name}</span>
            </Link>
          </li>
        ))}
        <li className="mt-1 border-t border-base-300 pt-1">
          <Link to="/projects" onClick={closeMenu}>
            All projects …
          </Link>
        </li>
      </ul>
    </details>
  );
}

function closeMenu(event: { currentTarget: Element }) {
  event.currentTarget.closest('details')?.removeAttribute('open');
}

function ThemeSwitch() {
  const [theme, setTheme] = useState(storedTheme);
  const other = theme === 'limestone' ? 'vault' : 'limestone';
  const change = () => {
    chooseTheme(other);
    setTheme(other);
  };
  return (
    <button
      type="button"
      className="btn btn-ghost btn-sm btn-square"
      onClick={change}
      aria-label={other === 'vault' ? 'Dark theme' : 'Light theme'}
    >
      {other === 'vault' ? <Moon size={17} aria-hidden /> : <Sun size={17} aria-hidden />}
    </button>
  );
}

function AccountMenu({ project }: { project: string | undefined }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const session = useQuery(sessionQuery);
  const mine = useOwns(project);
  const leave = useMutation({
    mutationFn: signOut,
    onSuccess: async () => {
      client.clear();
      await navigate({ to: '/sign-in', search: {} });
    },
  });
  return (
    <details className="dropdown dropdown-end">
      <summary className="btn btn-ghost btn-sm gap-1 font-normal">
        <UserRound size={16} aria-hidden />
        <span className="max-w-32 truncate">{session.data?.login ?? 'Account'}</span>
      </summary>
      <ul className="menu dropdown-content z-20 mt-1 w-60 rounded-box border border-base-300 bg-base-100 shadow-md">
        {project ? (
          <li>
            <Link to="/$project/members" params={{ project }} onClick={closeMenu}>
              Members of this project
            </Link>
          </li>
        ) : null}
        {project && mine ? (
          <li>
            <Link to="/$project/tokens" params={{ project }} onClick={closeMenu}>
              Tokens of this project
            </Link>
          </li>
        ) : null}
        <li>
          <Link to="/projects" onClick={closeMenu}>
            Projects
          </Link>
        </li>
        {session.data?.administrator ? (
          <>
            <li className="mt-1 border-t border-base-300 pt-1">
              <Link to="/people" onClick={closeMenu}>
                People
              </Link>
            </li>
            <li>
              <Link to="/operations" onClick={closeMenu}>
                Operations
              </Link>
            </li>
          </>
        ) : null}
        <li className="mt-1 border-t border-base-300 pt-1">
          <Link to="/account" onClick={closeMenu}>
            Account
          </Link>
        </li>
        <li>
          <button type="button" onClick={() => leave.mutate()}>
            Sign out
          </button>
        </li>
      </ul>
    </details>
  );
}
