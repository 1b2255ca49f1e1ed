/** Sends a play to a project of the Oquel that serves this page: the one in the address, or the first of the demo's name. */
export async function send(
  trace: string,
  { name, hash, session }: { name: string; hash: string; session: string },
): Promise<string> {
  const asked = new URLSearchParams(location.search).get('project');
  const project = asked ?? (await projectCalled(name));
  if (project === null) return `No project called “${name}” is here. Name one in the address: ?project=ID`;
  const token = new URLSearchParams(location.hash.slice(1)).get('token');
  if (token === null) return 'Open this page from Plays, in Rehearse, where a token is made.';
  const query = new URLSearchParams({ session, wiring: hash, loadSet: 'ascent' });
  const response = await fetch(`/api/projects/${project}/plays?${query.toString()}`, {
    method: 'POST',
    headers: { 'content-type': 'application/x-ndjson', authorization: `Bearer ${token}` },
    body: trace,
  });
  const answer = (await response.json()) as { detail?: string };
  if (!response.ok) return `It was not taken: ${answer.detail ?? response.statusText}`;
  return 'It is in Oquel, in Plays.';
}

async function projectCalled(name: string): Promise<string | null> {
  const response = await fetch('/api/projects');
  if (!response.ok) return null;
  const projects = (await response.json()) as { id: string; name: string }[];
  return projects.find((p) => p.name === name)?.id ?? null;
}
