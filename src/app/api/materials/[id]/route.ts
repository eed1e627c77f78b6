import { MaterialChange } from '@/server/library/materialSchemas';
import { deleteMaterial, editMaterial, readMaterial, restoreMaterial, whereUsed } from '@/server/library/materials';
import { route } from '@/server/http/problem';
import { check, readJson } from '@/server/http/validate';

type Context = { params: Promise<{ id: string }> };

export const GET = route<Context>(async (request, { params }) => {
  const { id: key } = await params;
  const version = new URL(request.url).searchParams.get('version');
  const material = await readMaterial(key, version === null ? undefined : Number(version));
  return Response.json({ ...material, usedIn: await whereUsed(key) });
});

export const PATCH = route<Context>(async (request, { params }) => {
  const { id: key } = await params;
  const { deleted, ...values } = check(MaterialChange, await readJson(request));
  if (deleted === false) await restoreMaterial(key);
  return Response.json(Object.keys(values).length ? await editMaterial(key, values) : await readMaterial(key));
});

export const DELETE = route<Context>(async (_request, { params }) => {
  await deleteMaterial((await params).id);
  return new Response(null, { status: 204 });
});
