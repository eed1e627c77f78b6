import { readChoice } from '@/server/importing/importModel';
import { runTask } from '@/server/jobs/pool';
import { route } from '@/server/http/problem';
import { dropUpload, receiveUpload } from '@/server/importing/uploads';

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
