import '@fontsource-variable/hanken-grotesk/index.css';
import '@fontsource-variable/spline-sans-mono/index.css';
import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { Providers } from '@/ui/shared/Providers';
import './globals.css';

export const metadata: Metadata = {
  title: 'Jute Grid',
  description: 'True-size materials, laid the way a craftsman would.',
};

// the chosen theme is set before anything is painted, so that nothing flashes
const THEME =
  'try{var ' + `t=localStorage.getItem('jute-grid-theme');if(t)document.documentElement.dataset.theme=t}catch(e){}`;

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <script dangerouslySetInnerHTML={{ __html: THEME }} />
      </head>
      <body>
        <Providers>{children}</Providers>
      </body>
    </html>
  );
}
