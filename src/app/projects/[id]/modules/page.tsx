import { ModulesView } from '@/ui/modules/ModulesView';

export default function Page() {
  return <ModulesView />;
}
