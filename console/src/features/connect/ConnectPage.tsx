import { useMutation, useQuery } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { type FormEvent, useState } from 'react';
import { plural } from '../../shared/lib/format';
import { streamsQuery } from '../../shared/runs/api';
import { useRunNews } from '../../shared/runs/news';
import { createToken } from '../../shared/session/api';
import { CopyButton } from '../../shared/ui/CopyButton';
import { Wrong } from '../../shared/ui/Form';
import { isStream, snippets } from './snippets';

/** From nothing to the first run: names the stream, makes the token, shows what to paste, waits. */
export function ConnectPage({ project }: { project: string }) {
  const [stream, setStream] = useState('');
  const made = useMutation({
    mutationFn: () =>
      createToken(project, {
        name: `pipeline of ${stream}`,
        scopes: ['send', 'read'],
        days: null,
      }),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    made.mutate();
  };
  const wrong = stream !== '' && !isStream(stream);
  return (
    <main className="mx-auto w-full max-w-4xl overflow-y-auto p-8">
      <h1 className="font-serif text-3xl">Connect a pipeline</h1>
      <p className="mt-1 text-quiet">
        A stream is the series of runs of one pipeline job. Name it, paste the line, and wait here
        for its first run.
      </p>
      <form onSubmit={submit} className="mt-6 flex flex-wrap items-end gap-3">
        <label className="grow">
          <span className="text-sm font-semibold">Stream, such as booking-api/nightly</span>
          <input
            className="input mt-1 w-full"
            value={stream}
            onChange={(e) => setStream(e.target.value)}
            disabled={made.isSuccess}
            aria-invalid={wrong}
            aria-describedby="stream-rule"
            required
          />
        </label>
        <button
          type="submit"
          className="btn btn-primary"
          disabled={!isStream(stream) || made.isPending || made.isSuccess}
        >
          Make a token
        </button>
        <p id="stream-rule" className={`w-full text-sm ${wrong ? 'text-error' : 'text-quiet'}`}>
          One to three words of letters, digits, “.”, “_” and “-”, parted by “/”.
        </p>
      </form>
      <Wrong error={made.error} />
      {made.data ? (
        <>
          <Snippets project={project} stream={stream} token={made.data.secret} />
          <FirstRun project={project} stream={stream} />
        </>
      ) : null}
    </main>
  );
}

function Snippets(props: { project: string; stream: string; token: string }) {
  const all = snippets({ origin: location.origin, ...props });
  const [chosen, setChosen] = useState<string>('shell');
  const shown = all.find((one) => one.key === chosen) ?? all[0];
  return (
    <section className="mt-6 rounded-box border border-base-300" aria-label="What to paste">
      <div role="tablist" className="flex gap-1 border-b border-base-300 px-3">
        {all.map((one) => (
          <button
            key={one.key}
            type="button"
            role="tab"
            aria-selected={one.key === chosen}
            onClick={() => setChosen(one.key)}
            className={`border-b-2 px-3 py-2 ${
              one.key === chosen
                ? 'border-primary font-semibold text-primary'
                : 'border-transparent hover:bg-base-200'
            }`}
          >
            {one.name}
          </button>
        ))}
      </div>
      {shown ? (
        <div className="p-4">
          <p className="flex items-center gap-2 text-quiet">
            {shown.about} <CopyButton text={shown.text} what="the lines" />
          </p>
          <pre className="mt-2 rounded-field bg-base-200 p-3 break-words whitespace-pre-wrap">
            {shown.text}
          </pre>
        </div>
      ) : null}
      <div className="border-t border-base-300 p-4">
        <p className="flex flex-wrap items-center gap-2">
          <span className="font-semibold">The token, which is not shown again:</span>
          <code className="break-all">{props.token}</code>
          <CopyButton text={props.token} what="the token" />
        </p>
      </div>
    </section>
  );
}

function FirstRun({ project, stream }: { project: string; stream: string }) {
  useRunNews(project);
  const streams = useQuery(streamsQuery(project));
  const [before] = useState(
    () => streams.data?.find((one) => one.name === stream)?.latest.number ?? 0,
  );
  const found = streams.data?.find((one) => one.name === stream);
  const arrived = found && found.latest.number > before ? found.latest : undefined;
  return (
    <p role="status" className="mt-6 flex items-center gap-3 rounded-box bg-base-200 p-4">
      {arrived ? (
        <>
          <span className="font-semibold text-passed">Connected.</span>
          <Link
            to="/$project/runs/$"
            params={{ project, _splat: `${stream}/${arrived.number}` }}
            className="link font-semibold"
          >
            {stream} #{arrived.number}
          </Link>
          <span>has arrived, with {plural(arrived.counts.tests, 'test')}.</span>
        </>
      ) : (
        <>
          <span className="loading loading-dots loading-sm" aria-hidden />
          Waiting for the first run of {stream} …
        </>
      )}
    </p>
  );
}
