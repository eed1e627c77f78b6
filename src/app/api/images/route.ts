import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { readRole } from '@/core/material/roles';
import { storeImage } from '@/server/store/images';
import { route } from '@/server/http/problem';
import { dropUpload, receiveUpload } from '@/server/importing/uploads';

/** Stores pictures and says what each is, with the role its name tells. */
export const POST = route(async (request) => {
  const upload = await receiveUpload(request);
  try {
    const stored = [];
    for (const file of upload.files) {
      const bytes = await readFile(path.join(upload.folder, file));
      stored.push({ ...(await storeImage(bytes, file)), ...readRole(file) });
    }
    return Response.json(stored, { status: 201 });
  } finally {
    await dropUpload(upload.id);
  }
});
