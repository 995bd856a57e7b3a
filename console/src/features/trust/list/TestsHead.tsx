import { useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { streamNamesQuery } from '../api';
import { MORE_SHOWS, SHOWS, type Show, type TestsSearch } from '../model';
import { RANK_WORDS } from '../ranks/words';

const WORDS: Record<Show, string> = {
  ...RANK_WORDS,
  flaky: 'Flaky',
  quarantine: 'Quarantine',
  broken: 'Broken',
  unsure: 'Not known yet',
  renamed: 'Renamed',
  'made-up': 'Made-up names',
};

/** Which tests are listed, and of which stream. */
export function TestsHead(props: {
  project: string;
  show: Show;
  stream: string | undefined;
  onChange: (next: Pick<TestsSearch, 'show' | 'stream'>) => void;
}) {
  const streams = useQuery(streamNamesQuery(props.project));
  const isMore = MORE_SHOWS.some((one) => one === props.show);
  return (
    <header className="shrink-0 px-5 pt-4">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 className="font-serif text-2xl">Tests</h1>
        <p className="text-[15px] text-quiet">Which of them can be believed</p>
        <Link
          to="/$project/tests/grid"
          params={{ project: props.project }}
          search={props.stream === undefined ? {} : { stream: props.stream }}
          className="link ml-auto text-sm"
        >
          by runs
        </Link>
        <label className="flex items-baseline gap-2 text-sm">
          <span className="text-quiet">of</span>
          <select
            className="select select-sm w-auto"
            value={props.stream ?? ''}
            onChange={(e) =>
              props.onChange({ show: props.show, stream: e.target.value || undefined })
            }
          >
            <option value="">all streams</option>
            {(streams.data ?? []).map((name) => (
              <option key={name} value={name}>
                {name}
              </option>
            ))}
          </select>
        </label>
      </div>
      <div className="mt-2 flex gap-1">
        {SHOWS.map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={one === props.show}
            onClick={() =>
              props.onChange({ show: one === 'flaky' ? undefined : one, stream: props.stream })
            }
            className={`border-b-2 px-3 py-1.5 ${
              one === props.show
                ? 'border-primary font-semibold text-primary'
                : 'border-transparent hover:bg-base-200'
            }`}
          >
            {WORDS[one]}
          </button>
        ))}
        <label className="ml-2 self-center">
          <span className="sr-only">More lists</span>
          <select
            className={`select select-sm w-auto ${isMore ? 'font-semibold text-primary' : ''}`}
            value={isMore ? props.show : ''}
            onChange={(e) => {
              const show = MORE_SHOWS.find((one) => one === e.target.value);
              if (show) props.onChange({ show, stream: props.stream });
            }}
          >
            <option value="" disabled>
              More
            </option>
            {MORE_SHOWS.map((one) => (
              <option key={one} value={one}>
                {WORDS[one]}
              </option>
            ))}
          </select>
        </label>
      </div>
    </header>
  );
}
