import { ProjectsBoard } from '@/ui/projects/ProjectsBoard';

export default function Page() {
  return <ProjectsBoard />;
}
