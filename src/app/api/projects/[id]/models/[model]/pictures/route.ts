import { bringPictures } from '@/server/importing/importModel';
import { route } from '@/server/http/problem';
import { dropUpload, receiveUpload } from '@/server/importing/uploads';

type Context = { params: Promise<{ id: string; model: string }> };

/** Pictures that were missing when the model came in. */
export const POST = route<Context>(async (request, { params }) => {
  const { id, model } = await params;
  const upload = await receiveUpload(request);
  try {
    return Response.json(await bringPictures(id, model, Number(upload.fields.baseRevision), upload));
  } finally {
    await dropUpload(upload.id);
  }
});
