import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from '@tanstack/react-router';
import { useState } from 'react';
import { projectsQuery, sessionQuery } from '../../shared/session/api';
import { MakeForm, TextField } from '../../shared/ui/Form';
import { Empty, Failed, Loading } from '../../shared/ui/States';
import { createProject } from './api';
import { suggestedKey } from './model';

export function ProjectsPage() {
  const session = useQuery(sessionQuery);
  const projects = useQuery(projectsQuery);
  return (
    <main className="mx-auto w-full max-w-4xl overflow-y-auto p-8">
      <h1 className="font-serif text-3xl">Projects</h1>
      <p className="mt-1 text-quiet">
        Each is a walled space with its own streams, members and tokens.
      </p>
      <div className="mt-6 overflow-hidden rounded-box border border-base-300">
        {projects.isPending ? <Loading lines={3} /> : null}
        {projects.error ? <Failed error={projects.error} /> : null}
        {projects.data?.length === 0 ? (
          <Empty title="You are a member of no project yet">
            An owner of a project makes you one, under Members.
          </Empty>
        ) : null}
        <ul className="divide-y divide-base-300">
          {projects.data?.map((project) => (
            <li key={project.key} className="flex flex-wrap items-baseline gap-4 px-4 py-3">
              <Link
                to="/$project/runs"
                params={{ project: project.key }}
                className="link-hover text-lg font-semibold"
              >
                {project.name}
              </Link>
              <code className="text-quiet">{project.key}</code>
              <span className="ml-auto text-sm text-quiet">
                {project.role ?? ''}
                {project.open ? ', open to all' : ''}
              </span>
              <Link
                to="/$project/members"
                params={{ project: project.key }}
                className="link text-sm"
              >
                Members
              </Link>
              {project.role === 'owner' ? (
                <Link
                  to="/$project/tokens"
                  params={{ project: project.key }}
                  className="link text-sm"
                >
                  Tokens
                </Link>
              ) : null}
            </li>
          ))}
        </ul>
      </div>
      {session.data?.administrator ? <NewProject /> : null}
    </main>
  );
}

function NewProject() {
  const client = useQueryClient();
  const [name, setName] = useState('');
  const [key, setKey] = useState<string>();
  const shownKey = key ?? suggestedKey(name);
  const mutation = useMutation({
    mutationFn: () => createProject(shownKey, name),
    onSuccess: async () => {
      setName('');
      setKey(undefined);
      await client.invalidateQueries(projectsQuery);
    },
  });
  return (
    <MakeForm
      title="New project"
      button="Make project"
      onSubmit={() => mutation.mutate()}
      busy={mutation.isPending}
      error={mutation.error}
    >
      <TextField label="Name" className="grow" value={name} onChange={setName} />
      <TextField
        label="Key, in addresses and tokens"
        className="grow"
        mono
        value={shownKey}
        onChange={setKey}
      />
    </MakeForm>
  );
}
