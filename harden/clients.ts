import { type Found, seeded, type Served } from './server';

/** Many at one project at once: each change is based on the newest or refused, and none is lost. */
export async function manyClients(served: Served, clients: number, changes: number): Promise<Found> {
  const random = seeded(7);
  const faults: string[] = [];
  const id = await served.newProject('Shared');
  const counts = { made: 0, refused: 0 };
  const level = (client: number, n: number) => ({ id: `level-${client}-${n}`, name: `${client}/${n}`, heightMm: n });
  const each = Math.ceil(changes / clients);
  const client = async (number: number) => {
    let { revision } = await served.ask<{ revision: number }>('GET', `/api/projects/${id}`);
    for (let n = 0; n < each;) {
      const { status, body } = await served.json('POST', `/api/projects/${id}/changes`, {
        baseRevision: revision,
        commands: [{ kind: 'setLevel', level: level(number, n) }],
      });
      const said = JSON.parse(body || '{}') as { revision: number };
      if (status === 200) {
        counts.made++;
        n++;
      } else if (status === 409) counts.refused++;
      else return void faults.push(`client ${number} was answered by ${status} ${body.slice(0, 200)}`);
      ({ revision } = said);
      if (random() < 0.05) await new Promise((r) => setTimeout(r, random() * 20));
    }
  };
  await Promise.all(Array.from({ length: clients }, (_, n) => client(n)));
  const { revision, project } = await served.ask<{ revision: number; project: { levels: object } }>(
    'GET',
    `/api/projects/${id}`,
  );
  const there = Object.keys(project.levels).length;
  if (there !== counts.made) faults.push(`${counts.made} were acknowledged, ${there} are there`);
  if (revision !== counts.made) faults.push(`after ${counts.made} changes it stands at revision ${revision}`);
  const history = await served.ask<unknown[]>('GET', `/api/projects/${id}/history`);
  if (history.length !== counts.made) faults.push(`its history has ${history.length} steps of ${counts.made}`);
  return { told: [`${clients} clients, ${counts.made} changes, ${counts.refused} told that they came late`], faults };
}
