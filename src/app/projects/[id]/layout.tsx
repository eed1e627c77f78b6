import type { ReactNode } from 'react';
import { ProjectShell } from '@/ui/project/ProjectShell';

export default async function Layout({ children, params }: { children: ReactNode; params: Promise<{ id: string }> }) {
  return <ProjectShell id={(await params).id}>{children}</ProjectShell>;
}
