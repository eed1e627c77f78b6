/** Runs once when the server starts. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return;
  const { collectUnused } = await import('./server/store/collect');
  const sweep = () =>
    void collectUnused(Date.now()).catch((error: unknown) => console.error('Collecting unused files failed', error));
  setTimeout(sweep, 60_000).unref();
  setInterval(sweep, 6 * 3600_000).unref();
}
