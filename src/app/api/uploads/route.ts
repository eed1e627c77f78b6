import { readChoice } from '@/server/importing';
import { runTask } from '@/server/pool';
import { route } from '@/server/problem';
import { dropUpload, receiveUpload } from '@/server/uploads';

/** Takes files in and says what they are; nothing is saved until a project asks for the upload. */
export const POST = route(async (request) => {
  const upload = await receiveUpload(request);
  try {
    const source = { folder: upload.folder, files: upload.files };
    const preview = await runTask('preview', { source, choice: readChoice(upload.fields) }, { signal: request.signal });
    return Response.json({ upload: upload.id, ...preview }, { status: 201 });
  } catch (error) {
    await dropUpload(upload.id);
    throw error;
  }
});
