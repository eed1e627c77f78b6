/** What is being done, or what went wrong. */
export function Working({ busy, error }: { busy: string | null; error: string | null }) {
  return (
    <>
      {busy && (
        <p role="status" className="quiet flex items-center gap-2">
          <progress className="progress progress-primary w-40" /> {busy}…
        </p>
      )}
      {error && (
        <p role="alert" className="text-error">
          {error}
        </p>
      )}
    </>
  );
}
