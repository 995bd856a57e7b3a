import { type QueryClient, useQuery } from '@tanstack/react-query';
import {
  createRootRouteWithContext,
  createRoute,
  createRouter,
  lazyRouteComponent,
  Navigate,
  Outlet,
  redirect,
  useNavigate,
} from '@tanstack/react-router';
import { type ReactNode, useState } from 'react';
import { readSignInSearch } from '../features/access/model';
import { boardAhead } from '../features/boards/api';
import { readBoardSearch } from '../features/boards/model';
import { readReportSearch } from '../features/reports/model';
import { readFoundSearch, readRunSearch, readRunsSearch } from '../features/runs/model';
import { readDeskSearch, readRulesSearch } from '../features/triage/model';
import { readGridSearch, readTestsSearch } from '../features/trust/model';
import { projectsQuery, sessionQuery } from '../shared/session/api';
import { Empty, Failed } from '../shared/ui/States';
import { Shell } from './Shell';

// Each page is a script of its own, fetched when somebody goes there.
const AccountPage = lazyRouteComponent(
  () => import('../features/access/AccountPage'),
  'AccountPage',
);
const JoinPage = lazyRouteComponent(() => import('../features/access/JoinPage'), 'JoinPage');
const MembersPage = lazyRouteComponent(
  () => import('../features/access/MembersPage'),
  'MembersPage',
);
const PeoplePage = lazyRouteComponent(() => import('../features/access/PeoplePage'), 'PeoplePage');
const ProjectsPage = lazyRouteComponent(
  () => import('../features/access/ProjectsPage'),
  'ProjectsPage',
);
const TokensPage = lazyRouteComponent(() => import('../features/access/TokensPage'), 'TokensPage');
const LatestBundlePage = lazyRouteComponent(
  () => import('../features/runs/bundles/LatestBundlePage'),
  'LatestBundlePage',
);
const BoardsPage = lazyRouteComponent(
  () => import('../features/boards/list/BoardsPage'),
  'BoardsPage',
);
const BoardPage = lazyRouteComponent(
  () => import('../features/boards/board/BoardPage'),
  'BoardPage',
);
const SharedPage = lazyRouteComponent(
  () => import('../features/boards/shared/SharedPage'),
  'SharedPage',
);
const ReportsPage = lazyRouteComponent(
  () => import('../features/reports/ReportsPage'),
  'ReportsPage',
);
const FiltersPage = lazyRouteComponent(
  () => import('../features/filters/FiltersPage'),
  'FiltersPage',
);
const FoundPage = lazyRouteComponent(() => import('../features/runs/found/FoundPage'), 'FoundPage');
const ConnectPage = lazyRouteComponent(
  () => import('../features/connect/ConnectPage'),
  'ConnectPage',
);
const OperationsPage = lazyRouteComponent(
  () => import('../features/operate/OperationsPage'),
  'OperationsPage',
);
const RunPage = lazyRouteComponent(() => import('../features/runs/run/RunPage'), 'RunPage');
const RunsPage = lazyRouteComponent(() => import('../features/runs/streams/RunsPage'), 'RunsPage');
const TodayPage = lazyRouteComponent(() => import('../features/today/TodayPage'), 'TodayPage');
const TriagePage = lazyRouteComponent(
  () => import('../features/triage/desk/TriagePage'),
  'TriagePage',
);
const GridPage = lazyRouteComponent(() => import('../features/trust/grid/GridPage'), 'GridPage');
const TestsPage = lazyRouteComponent(() => import('../features/trust/list/TestsPage'), 'TestsPage');
const RulesPage = lazyRouteComponent(
  () => import('../features/triage/rules/RulesPage'),
  'RulesPage',
);
const CategoriesPage = lazyRouteComponent(
  () => import('../features/triage/categories/CategoriesPage'),
  'CategoriesPage',
);
const CodePage = lazyRouteComponent(() => import('../features/triage/code/CodePage'), 'CodePage');
const TrackerPage = lazyRouteComponent(
  () => import('../features/triage/tracker/TrackerPage'),
  'TrackerPage',
);
const SignInPage = lazyRouteComponent(() => import('../features/access/SignInPage'), 'SignInPage');

/**
 * What a route shows, with the page's script fetched by the router before it shows anything: what
 * React waits for itself it holds back for a third of a second more.
 */
function first<Shown extends () => ReactNode>(
  page: { preload?: (() => Promise<void> | undefined) | undefined },
  shown: Shown,
): Shown {
  return Object.assign(shown, { preload: page.preload });
}

// The router hands the pages what validateSearch made, but also every parameter that it dropped; so
// each page reads its own again, and gets only what is checked.

const root = createRootRouteWithContext<{ client: QueryClient }>()({ component: Outlet });

const signIn = createRoute({
  getParentRoute: () => root,
  path: '/sign-in',
  validateSearch: readSignInSearch,
  component: first(SignInPage, function SignIn() {
    const navigate = useNavigate();
    const { to } = readSignInSearch(signIn.useSearch());
    return <SignInPage onSignedIn={() => navigate({ href: to ?? '/', replace: true })} />;
  }),
});

const joining = createRoute({
  getParentRoute: () => root,
  path: '/join',
  component: first(JoinPage, function Join() {
    const navigate = useNavigate();
    const [secret] = useState(() => location.hash.slice(1));
    return <JoinPage secret={secret} onSignedIn={() => navigate({ to: '/', replace: true })} />;
  }),
});

const sharedBoard = createRoute({
  getParentRoute: () => root,
  path: '/shared',
  component: first(SharedPage, function SharedBoard() {
    const [secret] = useState(() => location.hash.slice(1));
    return <SharedPage secret={secret} />;
  }),
});

const inside = createRoute({
  getParentRoute: () => root,
  id: 'inside',
  beforeLoad: async ({ context, location }) => {
    const session = await context.client.ensureQueryData(sessionQuery);
    if (!session) {
      throw redirect({ to: '/sign-in', search: { to: location.href } });
    }
  },
  component: Shell,
});

const home = createRoute({
  getParentRoute: () => inside,
  path: '/',
  beforeLoad: async ({ context }) => {
    const projects = await context.client.ensureQueryData(projectsQuery);
    const first = projects[0];
    throw first
      ? redirect({ to: '/$project/today', params: { project: first.key } })
      : redirect({ to: '/projects' });
  },
});

const projects = createRoute({
  getParentRoute: () => inside,
  path: '/projects',
  component: ProjectsPage,
});

const account = createRoute({
  getParentRoute: () => inside,
  path: '/account',
  component: first(AccountPage, function Account() {
    const session = useQuery(sessionQuery);
    return session.data ? <AccountPage login={session.data.login} /> : null;
  }),
});

const people = createRoute({
  getParentRoute: () => inside,
  path: '/people',
  component: first(PeoplePage, function People() {
    const session = useQuery(sessionQuery);
    return session.data ? <PeoplePage own={session.data.login} /> : null;
  }),
});

const operations = createRoute({
  getParentRoute: () => inside,
  path: '/operations',
  component: OperationsPage,
});

const members = createRoute({
  getParentRoute: () => inside,
  path: '/$project/members',
  component: first(MembersPage, function Members() {
    return <MembersPage project={members.useParams().project} />;
  }),
});

const tokens = createRoute({
  getParentRoute: () => inside,
  path: '/$project/tokens',
  component: first(TokensPage, function Tokens() {
    return <TokensPage project={tokens.useParams().project} />;
  }),
});

const runsArea = createRoute({
  getParentRoute: () => inside,
  path: '/$project/runs',
  component: Outlet,
});

const runs = createRoute({
  getParentRoute: () => runsArea,
  path: '/',
  validateSearch: readRunsSearch,
  component: first(RunsPage, function Runs() {
    return (
      <RunsPage project={runs.useParams().project} search={readRunsSearch(runs.useSearch())} />
    );
  }),
});

const run = createRoute({
  getParentRoute: () => runsArea,
  path: '$',
  validateSearch: readRunSearch,
  component: first(RunPage, function Run() {
    const { project, _splat } = run.useParams();
    const search = readRunSearch(run.useSearch());
    const match = (_splat ?? '').match(/^(.+)\/(\d{1,9})$/);
    if (!match?.[1] || !match[2]) {
      // Without a number it is the stream that is meant.
      return (
        <Navigate
          to="/$project/runs"
          params={{ project }}
          search={{ stream: (_splat ?? '').replace(/\/+$/, '') }}
          replace
        />
      );
    }
    return (
      <RunPage
        key={_splat}
        project={project}
        stream={match[1]}
        number={Number(match[2])}
        search={search}
      />
    );
  }),
});

const today = createRoute({
  getParentRoute: () => inside,
  path: '/$project/today',
  component: first(TodayPage, function Today() {
    return <TodayPage project={today.useParams().project} />;
  }),
});

/** Who cuts an address short means the project. */
const projectHome = createRoute({
  getParentRoute: () => inside,
  path: '/$project',
  beforeLoad: ({ params }) => {
    throw redirect({ to: '/$project/today', params });
  },
});

const triage = createRoute({
  getParentRoute: () => inside,
  path: '/$project/triage',
  validateSearch: readDeskSearch,
  component: first(TriagePage, function Triage() {
    return (
      <TriagePage
        project={triage.useParams().project}
        search={readDeskSearch(triage.useSearch())}
      />
    );
  }),
});

const tests = createRoute({
  getParentRoute: () => inside,
  path: '/$project/tests',
  validateSearch: readTestsSearch,
  component: first(TestsPage, function Tests() {
    return (
      <TestsPage project={tests.useParams().project} search={readTestsSearch(tests.useSearch())} />
    );
  }),
});

const grid = createRoute({
  getParentRoute: () => inside,
  path: '/$project/tests/grid',
  validateSearch: readGridSearch,
  component: first(GridPage, function Grid() {
    return (
      <GridPage project={grid.useParams().project} search={readGridSearch(grid.useSearch())} />
    );
  }),
});

const boards = createRoute({
  getParentRoute: () => inside,
  path: '/$project/boards',
  component: first(BoardsPage, function Boards() {
    return <BoardsPage project={boards.useParams().project} />;
  }),
});

const boardNumber = (text: string) => Number.parseInt(text, 10) || 0;

const board = createRoute({
  getParentRoute: () => inside,
  path: '/$project/boards/$board',
  validateSearch: readBoardSearch,
  loader: ({ context, params, location }) => {
    const { days, filter } = readBoardSearch(location.search);
    boardAhead(context.client, params.project, boardNumber(params.board), { days, filter });
  },
  component: first(BoardPage, function OneBoard() {
    const params = board.useParams();
    return (
      <BoardPage
        project={params.project}
        board={boardNumber(params.board)}
        search={readBoardSearch(board.useSearch())}
      />
    );
  }),
});

const reports = createRoute({
  getParentRoute: () => inside,
  path: '/$project/reports',
  validateSearch: readReportSearch,
  component: first(ReportsPage, function Reports() {
    return (
      <ReportsPage
        project={reports.useParams().project}
        search={readReportSearch(reports.useSearch())}
      />
    );
  }),
});

const filters = createRoute({
  getParentRoute: () => inside,
  path: '/$project/filters',
  component: first(FiltersPage, function Filters() {
    return <FiltersPage project={filters.useParams().project} />;
  }),
});

const found = createRoute({
  getParentRoute: () => inside,
  path: '/$project/found',
  validateSearch: readFoundSearch,
  component: first(FoundPage, function FoundThings() {
    return (
      <FoundPage project={found.useParams().project} search={readFoundSearch(found.useSearch())} />
    );
  }),
});

const rules = createRoute({
  getParentRoute: () => inside,
  path: '/$project/triage/rules',
  validateSearch: readRulesSearch,
  component: first(RulesPage, function Rules() {
    return (
      <RulesPage project={rules.useParams().project} search={readRulesSearch(rules.useSearch())} />
    );
  }),
});

const categories = createRoute({
  getParentRoute: () => inside,
  path: '/$project/triage/categories',
  component: first(CategoriesPage, function Categories() {
    return <CategoriesPage project={categories.useParams().project} />;
  }),
});

const code = createRoute({
  getParentRoute: () => inside,
  path: '/$project/triage/code',
  component: first(CodePage, function Code() {
    return <CodePage project={code.useParams().project} />;
  }),
});

const tracker = createRoute({
  getParentRoute: () => inside,
  path: '/$project/triage/tracker',
  component: first(TrackerPage, function Tracker() {
    return <TrackerPage project={tracker.useParams().project} />;
  }),
});

const connect = createRoute({
  getParentRoute: () => inside,
  path: '/$project/connect',
  component: first(ConnectPage, function Connect() {
    return <ConnectPage project={connect.useParams().project} />;
  }),
});

const latestBundle = createRoute({
  getParentRoute: () => inside,
  path: '/$project/latest-bundle',
  validateSearch: (search: { [key: string]: unknown }) => ({
    stream: String(search.stream ?? ''),
    ...(search.title === undefined ? {} : { title: String(search.title) }),
  }),
  component: first(LatestBundlePage, function LatestBundle() {
    const { stream, title } = latestBundle.useSearch();
    return (
      <LatestBundlePage
        project={latestBundle.useParams().project}
        stream={stream}
        title={title === undefined ? undefined : String(title)}
      />
    );
  }),
});

export function createAppRouter(client: QueryClient) {
  return createRouter({
    routeTree: root.addChildren([
      signIn,
      joining,
      sharedBoard,
      inside.addChildren([
        home,
        projects,
        account,
        people,
        operations,
        members,
        tokens,
        projectHome,
        today,
        triage,
        tests,
        grid,
        boards,
        reports,
        board,
        filters,
        found,
        rules,
        categories,
        code,
        tracker,
        connect,
        latestBundle,
        runsArea.addChildren([runs, run]),
      ]),
    ]),
    context: { client },
    defaultPreload: false,
    scrollRestoration: true,
    defaultErrorComponent: ({ error }) => (
      <Failed error={error instanceof Error ? error : new Error(String(error))} />
    ),
    defaultNotFoundComponent: () => (
      <Empty title="There is no such page" page>
        <a className="link" href="/">
          To the runs
        </a>
      </Empty>
    ),
  });
}
