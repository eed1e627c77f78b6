import { MaterialsView } from '@/ui/materials/MaterialsView';

export default function Page() {
  return <MaterialsView />;
}
