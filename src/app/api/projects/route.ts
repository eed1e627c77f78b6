import { Type } from '@sinclair/typebox';
import { Name } from '@/core/schema/basics';
import { route } from '@/server/http/problem';
import { createProject, duplicateProject, listProjects } from '@/server/store/projects';
import { hasStill } from '@/server/store/stills';
import { check, readJson } from '@/server/http/validate';

const Body = Type.Object(
  { name: Type.Optional(Name), copyOf: Type.Optional(Type.String()) },
  { additionalProperties: false },
);

export const GET = route(async (request) => {
  const withDeleted = new URL(request.url).searchParams.get('deleted') === 'true';
  return Response.json(await listProjects(withDeleted, hasStill));
});

export const POST = route(async (request) => {
  const body = check(Body, await readJson(request));
  const opened = body.copyOf ? await duplicateProject(body.copyOf) : await createProject(body.name ?? 'New project');
  return Response.json(opened, { status: 201 });
});
