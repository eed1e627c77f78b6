import type { Job } from '@/api/answers';
import { urlOf } from './api';

/**
 * Tells of a job at every change, until it ends.
 * @returns ends the listening; the job goes on
 */
export function followJob(id: string, told: (job: Job) => void): () => void {
  const source = new EventSource(urlOf('GET /api/jobs/{id}/events', { id }));
  source.onmessage = (e) => {
    const job = JSON.parse(e.data as string) as Job;
    if (job.state !== 'running' && job.state !== 'queued') source.close();
    told(job);
  };
  source.onerror = () => source.close();
  return () => source.close();
}
