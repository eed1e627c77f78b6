import { Type } from '@sinclair/typebox';
import { Name } from '@/core/schema/basics';
import { route } from '@/server/http/problem';
import { changeProject, deleteProject, readProject, restoreProject } from '@/server/store/projects';
import { check, readJson } from '@/server/http/validate';

type Context = { params: Promise<{ id: string }> };
const Body = Type.Object(
  { name: Type.Optional(Name), deleted: Type.Optional(Type.Literal(false)) },
  { additionalProperties: false },
);

export const GET = route<Context>(async (_request, { params }) => Response.json(await readProject((await params).id)));

export const PATCH = route<Context>(async (request, { params }) => {
  const { id } = await params;
  const body = check(Body, await readJson(request));
  if (body.deleted === false) await restoreProject(id);
  const opened = await readProject(id);
  if (body.name === undefined) return Response.json(opened);
  return Response.json(await changeProject(id, opened.revision, [{ kind: 'setProject', name: body.name }]));
});

export const DELETE = route<Context>(async (request, { params }) => {
  await deleteProject((await params).id, new URL(request.url).searchParams.get('forever') === 'true');
  return new Response(null, { status: 204 });
});
