import { HandOverView } from '@/ui/handover/HandOverView';

export default function Page() {
  return <HandOverView />;
}
