'use client';

import { LogIn } from 'lucide-react';
import { type FormEvent, useState } from 'react';
import { call, messageOf } from '../shared/api';
import { Mark } from '../shared/TopStrip';

/** @param byName a name and a password are asked for; else the token alone */
export function SignIn({ to, byName }: { to: string; byName: boolean }) {
  const [error, setError] = useState<string | null>(null);
  const [asking, setAsking] = useState(false);

  async function send(e: FormEvent<HTMLFormElement>) {
    e.preventDefault();
    const given = Object.fromEntries(new FormData(e.currentTarget)) as Record<string, string>;
    setAsking(true);
    setError(null);
    try {
      await call('POST /api/session', { body: given });
      // anew, so that nothing is left of what was refused
      window.location.assign(to);
    } catch (problem) {
      setError(messageOf(problem));
      setAsking(false);
    }
  }

  return (
    <main className="grid min-h-screen place-items-center p-6">
      <form className="card-panel flex w-full max-w-sm flex-col gap-4 p-6" onSubmit={(e) => void send(e)}>
        <h1 className="flex items-center gap-2 text-xl font-semibold">
          <Mark /> Jute Grid
        </h1>
        {byName && (
          <label className="block">
            <span className="quiet mb-1 block text-2xs">Name</span>
            <input name="user" className="field" autoComplete="username" autoFocus required />
          </label>
        )}
        <label className="block">
          <span className="quiet mb-1 block text-2xs">{byName ? 'Password' : 'Token'}</span>
          <input
            name={byName ? 'password' : 'token'}
            type="password"
            className="field"
            autoComplete="current-password"
            autoFocus={!byName}
            required
            aria-invalid={error !== null}
          />
        </label>
        {error && (
          <p role="alert" className="text-error">
            {error}
          </p>
        )}
        <button type="submit" className="tool tool-main h-8 justify-center" disabled={asking}>
          <LogIn size={15} /> Sign in
        </button>
      </form>
    </main>
  );
}
