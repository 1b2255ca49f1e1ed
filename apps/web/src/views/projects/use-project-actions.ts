import { useMutation, useQueryClient, type UseMutationResult } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import {
  copyProject,
  importDocument,
  sendEdit,
  setProjectState,
  type ProjectLine,
} from '../../api/client.js';
import { whoIsIt } from '../../session/who.js';
import type { Beginning } from './new-project.js';

/** What can be done with whole projects. Each takes the list anew afterwards. */
export function useProjectActions(): {
  make: UseMutationResult<{ id: string }, Error, Beginning>;
  rename: UseMutationResult<unknown, Error, { project: ProjectLine; name: string }>;
  duplicate: UseMutationResult<unknown, Error, { project: ProjectLine; name: string }>;
  state: UseMutationResult<void, Error, { project: ProjectLine; state: ProjectLine['state'] }>;
} {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const again = (): Promise<void> => queries.invalidateQueries({ queryKey: ['projects'] });
  return {
    make: useMutation({
      mutationFn: (beginning: Beginning): Promise<{ id: string }> =>
        'document' in beginning
          ? importDocument(JSON.stringify(beginning.document))
          : copyProject(beginning.copyOf, beginning.name),
      onSuccess: async ({ id }) => {
        void again();
        await navigate(`/p/${id}/plan`);
      },
    }),
    rename: useMutation({
      mutationFn: ({ project, name }: { project: ProjectLine; name: string }) =>
        sendEdit(project.id, {
          base: project.version,
          label: `renamed the project to ${name}`,
          who: whoIsIt(),
          key: crypto.randomUUID(),
          changes: [{ op: 'set', part: 'name', value: name }],
        }),
      onSettled: again,
    }),
    duplicate: useMutation({
      mutationFn: ({ project, name }: { project: ProjectLine; name: string }) =>
        copyProject(project.id, name),
      onSettled: again,
    }),
    state: useMutation({
      mutationFn: ({ project, state }: { project: ProjectLine; state: ProjectLine['state'] }) =>
        setProjectState(project.id, state),
      onSettled: again,
    }),
  };
}

/** A name for a copy that no project has: "Ridge copy", "Ridge copy 2" ... */
export function copyName(name: string, taken: ReadonlySet<string>): string {
  for (let n = 1; ; n++) {
    const next = `${name} copy${n === 1 ? '' : ` ${n}`}`;
    if (!taken.has(next)) return next;
  }
}
