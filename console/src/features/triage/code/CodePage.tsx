import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useId, useState } from 'react';
import { api, type Schemas, unwrap } from '../../../shared/api/client';
import { count, plural } from '../../../shared/lib/format';
import { useMayEdit } from '../../../shared/session/may';
import { triageKeys } from '../../../shared/triage/keys';
import { Wrong } from '../../../shared/ui/Form';
import { RelativeTime } from '../../../shared/ui/RelativeTime';
import { Failed, Loading } from '../../../shared/ui/States';
import { TriageNav } from '../TriageNav';

type Code = Schemas['CodeSettings'];

const BUSY_MS = 2_000;

function codeQuery(project: string) {
  return queryOptions({
    queryKey: triageKeys.code(project),
    queryFn: () =>
      unwrap(api.GET('/api/v1/projects/{project}/code', { params: { path: { project } } })),
    refetchInterval: (query) => ((query.state.data?.behind ?? 0) > 0 ? BUSY_MS : false),
  });
}

/** What is said of the project's code, by which failures are told apart. */
export function CodePage({ project }: { project: string }) {
  const code = useQuery(codeQuery(project));
  const mayEdit = useMayEdit(project);
  if (code.isPending) {
    return <Loading lines={6} />;
  }
  if (code.error) {
    return <Failed page error={code.error} retry={() => code.refetch()} />;
  }
  const kept = code.data;
  return (
    <main className="min-h-0 grow overflow-y-auto">
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-base-300 px-5 pt-4 pb-3">
        <h1 className="font-serif text-2xl">Triage</h1>
        <TriageNav project={project} />
      </header>
      <div className="mx-auto max-w-3xl px-5 py-5">
        <p className="text-quiet">
          A failure is known by the method of yours that it was thrown in. Which code is yours, and
          which merely helps, is told from names and from the tests of a run; say here what that
          cannot tell. All runs are then grouped anew; groups and decisions stay.
        </p>
        <p role="status" className="mt-3">
          {kept.behind > 0 ? (
            <span className="font-semibold">
              {plural(kept.behind, 'run')} of {count(kept.runs)} still to be grouped anew
            </span>
          ) : (
            <span className="text-quiet">
              {plural(kept.runs, 'run')}, all grouped by what is said here
            </span>
          )}
          {kept.changedAt ? (
            <span className="text-quiet">
              {' '}
              · as {kept.changedBy} said, <RelativeTime iso={kept.changedAt} />
            </span>
          ) : null}
        </p>
        <CodeForm key={kept.version} project={project} kept={kept} mayEdit={mayEdit} />
      </div>
    </main>
  );
}

function CodeForm(props: { project: string; kept: Code; mayEdit: boolean }) {
  const { project, kept, mayEdit } = props;
  const client = useQueryClient();
  const [own, setOwn] = useState(kept.own.join('\n'));
  const [helpers, setHelpers] = useState(kept.helpers.join('\n'));
  const keeping = useMutation({
    mutationFn: () =>
      unwrap(
        api.PUT('/api/v1/projects/{project}/code', {
          params: { path: { project } },
          body: { version: kept.version, own: own.split('\n'), helpers: helpers.split('\n') },
        }),
      ),
    onSuccess: (now) => client.setQueryData(triageKeys.code(project), now),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    keeping.mutate();
  };
  return (
    <form onSubmit={submit} className="mt-5 space-y-5">
      <Lines
        label="Own code"
        help="Beginnings of packages, namespaces or paths, one in each line"
        placeholder={'org.skerrow.\nsrc/'}
        value={own}
        onChange={setOwn}
        readOnly={!mayEdit}
      />
      <Lines
        label="Helpers"
        help="Parts of names or paths of code that others call for help: failures in it belong to who called"
        placeholder={'Guard\nshared/util/'}
        value={helpers}
        onChange={setHelpers}
        readOnly={!mayEdit}
      />
      {mayEdit ? (
        <div className="flex justify-end">
          <button type="submit" className="btn btn-primary btn-sm" disabled={keeping.isPending}>
            Keep, and group anew
          </button>
        </div>
      ) : null}
      <Wrong error={keeping.error} />
    </form>
  );
}

function Lines(props: {
  label: string;
  help: string;
  placeholder: string;
  value: string;
  onChange: (value: string) => void;
  readOnly: boolean;
}) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="font-semibold">
        {props.label}
      </label>
      <p id={`${id}-help`} className="text-sm text-quiet">
        {props.help}
      </p>
      <textarea
        id={id}
        aria-describedby={`${id}-help`}
        className="textarea mt-1 w-full font-mono text-[13px]"
        rows={6}
        spellCheck={false}
        readOnly={props.readOnly}
        placeholder={props.placeholder}
        value={props.value}
        onChange={(e) => props.onChange(e.target.value)}
      />
    </div>
  );
}
