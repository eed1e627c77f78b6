import { Studio } from '@/ui/studio/Studio';

export default function Page() {
  return <Studio />;
}
