import { replacePicture } from '@/server/library/materialDrops';
import { route } from '@/server/http/problem';
import { receiveUpload } from '@/server/importing/uploads';

type Context = { params: Promise<{ id: string }> };

/** Puts one picture in the place of a role (field `role`); every other setting stays. */
export const POST = route<Context>(async (request, { params }) =>
  Response.json(await replacePicture((await params).id, await receiveUpload(request))),
);
