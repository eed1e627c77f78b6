import { HANDLERS } from '@/server/http/handlers';
import { serve } from '@/server/http/serve';

/** Every call of the API: the table in `src/api/endpoints.ts` says which there are. */
const handle = serve(HANDLERS);

export { handle as DELETE, handle as GET, handle as PATCH, handle as POST, handle as PUT };
