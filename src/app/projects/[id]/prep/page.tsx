import { PrepView } from '@/ui/prep/PrepView';

export default function Page() {
  return <PrepView />;
}
