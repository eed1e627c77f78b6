import { Type } from '@sinclair/typebox';
import { Name } from '@/core/schema/basics';
import { route } from '@/server/http/problem';
import { nameHistoryEntry } from '@/server/store/projects';
import { check, readJson } from '@/server/http/validate';

type Context = { params: Promise<{ id: string; entry: string }> };
const Body = Type.Object({ name: Type.Union([Name, Type.Null()]) }, { additionalProperties: false });

export const PATCH = route<Context>(async (request, { params }) => {
  const { id, entry } = await params;
  await nameHistoryEntry(id, entry, check(Body, await readJson(request)).name);
  return new Response(null, { status: 204 });
});
