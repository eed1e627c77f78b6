import { redirect } from 'next/navigation';
import { sessions } from '@/server/front/sessions';
import { SignIn } from '@/ui/sign-in/SignIn';

/** Only a path of this application is gone on to. */
const ownPath = (to: unknown): string => (typeof to === 'string' && /^\/(?![/\\])/.test(to) ? to : '/');

export default async function Page({ searchParams }: { searchParams: Promise<{ to?: string }> }) {
  const found = sessions();
  const to = ownPath((await searchParams).to);
  if (!found) redirect(to);
  return <SignIn to={to} byName={found.sessions.byName} />;
}
