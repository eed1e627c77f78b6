import { readJob, watchJob } from '@/server/jobs/jobs';
import { route } from '@/server/http/problem';

type Context = { params: Promise<{ id: string }> };

/** Server-sent events: the job, at every change. */
export const GET = route<Context>(async (request, { params }) => {
  const { id } = await params;
  await readJob(id);
  const left = new AbortController();
  request.signal.addEventListener('abort', () => left.abort());
  const stream = new ReadableStream({
    async start(controller) {
      const encoder = new TextEncoder();
      try {
        await watchJob(
          id,
          (job) => controller.enqueue(encoder.encode(`data: ${JSON.stringify(job)}\n\n`)),
          left.signal,
        );
        if (!left.signal.aborted) controller.close();
      } catch (error) {
        controller.error(error);
      }
    },
    cancel: () => left.abort(),
  });
  return new Response(stream, { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' } });
});
