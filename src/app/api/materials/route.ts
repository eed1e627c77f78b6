import { receiveMaterials } from '@/server/library/materialDrops';
import { createMaterial, listMaterials, blankMaterial } from '@/server/library/materials';
import { route } from '@/server/http/problem';
import { NewMaterial } from '@/server/library/materialSchemas';
import { receiveUpload } from '@/server/importing/uploads';
import { check, readJson } from '@/server/http/validate';

export const GET = route(async () => Response.json(await listMaterials()));

/** JSON makes one material; multipart pictures make as many as their names tell. */
export const POST = route(async (request) => {
  if ((request.headers.get('content-type') ?? '').startsWith('multipart/')) {
    return Response.json(await receiveMaterials(await receiveUpload(request)), { status: 201 });
  }
  const { name, widthMm, heightMm, ...rest } = check(NewMaterial, await readJson(request));
  return Response.json(await createMaterial({ ...blankMaterial(name, widthMm, heightMm), ...rest }), { status: 201 });
});
