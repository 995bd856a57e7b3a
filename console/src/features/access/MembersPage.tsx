import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { projectsQuery } from '../../shared/session/api';
import { AskTwice } from '../../shared/ui/AskTwice';
import { MakeForm, TextField, Wrong } from '../../shared/ui/Form';
import { RelativeTime } from '../../shared/ui/RelativeTime';
import { Empty, Failed, Loading } from '../../shared/ui/States';
import type { Project } from './api';
import { RoleSelect } from './PeoplePage';
import { changeProject, type Member, membersQuery, removeMember, setMember } from './people';

/** Who is what in a project, and whether everybody may read it. */
export function MembersPage({ project }: { project: string }) {
  const members = useQuery(membersQuery(project));
  const projects = useQuery(projectsQuery);
  const own = projects.data?.find((one) => one.key === project);
  const mine = own?.role === 'owner';
  return (
    <main className="mx-auto w-full max-w-4xl overflow-y-auto p-8">
      <h1 className="font-serif text-3xl">Members</h1>
      <p className="mt-1 text-quiet">
        Readers see. Contributors also send, edit and decide. Owners also manage members, tokens and
        settings.
      </p>
      {own && mine ? <Openness key={`${own.open}`} project={own} /> : null}
      {mine ? <AddMember project={project} /> : null}
      <div className="mt-6 overflow-x-auto rounded-box border border-base-300">
        {members.isPending ? <Loading lines={3} /> : null}
        {members.error ? <Failed error={members.error} /> : null}
        {members.data?.length === 0 ? (
          <Empty title="Nobody is a member yet">
            Administrators of the portal own it until then.
          </Empty>
        ) : null}
        {members.data?.length ? (
          <table className="table">
            <thead>
              <tr>
                <th>Name</th>
                <th>Role</th>
                <th>Since</th>
                <th>
                  <span className="sr-only">Remove</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {members.data.map((member) => (
                <MemberRow key={member.login} project={project} member={member} mine={mine} />
              ))}
            </tbody>
          </table>
        ) : null}
      </div>
    </main>
  );
}

function Openness({ project }: { project: Project }) {
  const client = useQueryClient();
  // Follows the finger; what the portal says comes with the next key.
  const [open, setOpen] = useState(project.open);
  const change = useMutation({
    mutationFn: (wanted: boolean) => changeProject(project.key, project.name, wanted),
    onSuccess: () => client.invalidateQueries(projectsQuery),
    onError: () => setOpen(project.open),
  });
  return (
    <div className="mt-6 flex flex-wrap items-center gap-3 rounded-box border border-base-300 p-4">
      <label className="flex items-center gap-3">
        <input
          type="checkbox"
          className="toggle toggle-primary"
          checked={open}
          disabled={change.isPending}
          onChange={() => {
            setOpen(!open);
            change.mutate(!open);
          }}
        />
        <span>Everybody who signs in may read this project</span>
      </label>
      <Wrong error={change.error} className="" />
    </div>
  );
}

function AddMember({ project }: { project: string }) {
  const client = useQueryClient();
  const [login, setLogin] = useState('');
  const [role, setRole] = useState<string>('contributor');
  const add = useMutation({
    mutationFn: () => setMember(project, login, role),
    onSuccess: async () => {
      setLogin('');
      await client.invalidateQueries(membersQuery(project));
    },
  });
  return (
    <MakeForm
      title="Add somebody who can sign in"
      button="Add"
      onSubmit={() => add.mutate()}
      busy={add.isPending}
      error={add.error}
    >
      <TextField label="Name" className="grow" value={login} onChange={setLogin} />
      <RoleSelect value={role} onChange={setRole} />
    </MakeForm>
  );
}

function MemberRow(props: { project: string; member: Member; mine: boolean }) {
  const { project, member, mine } = props;
  const client = useQueryClient();
  const refresh = () => client.invalidateQueries(membersQuery(project));
  const change = useMutation({
    mutationFn: (role: string) => setMember(project, member.login, role),
    onSettled: refresh,
  });
  const remove = useMutation({
    mutationFn: () => removeMember(project, member.login),
    onSuccess: refresh,
  });
  const error = change.error ?? remove.error;
  return (
    <tr>
      <td className="max-w-60 truncate font-semibold" title={member.login}>
        {member.login}
      </td>
      <td>
        {mine ? (
          <RoleSelect
            of={member.login}
            value={change.isPending ? change.variables : member.role}
            disabled={change.isPending}
            onChange={(role) => change.mutate(role)}
          />
        ) : (
          member.role
        )}
      </td>
      <td>
        <RelativeTime iso={member.addedAt} />
        {member.addedBy ? ` by ${member.addedBy}` : ''}
      </td>
      <td className="text-right">
        {mine ? (
          <AskTwice
            label="Remove"
            really={`Really remove ${member.login}`}
            disabled={remove.isPending}
            onYes={() => remove.mutate()}
          />
        ) : null}
        <Wrong error={error} className="mt-1 text-sm" />
      </td>
    </tr>
  );
}
