import '@fontsource-variable/hanken-grotesk/index.css';
import '@fontsource-variable/spline-sans-mono/index.css';
import type { Metadata } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { NONCE } from '@/server/front/names';
import { Providers } from '@/ui/shared/Providers';
import './globals.css';

export const metadata: Metadata = {
  title: 'Jute Grid',
  description: 'True-size materials, laid the way a craftsman would.',
};

// the chosen theme is set before anything is painted, so that nothing flashes
const THEME =
  `try{const t=localStorage.getItem('jute-grid-theme');` + `if(t)document.documentElement.dataset.theme=t}catch(e){}`;
// styles that packages put into the page carry this response's word; what comes in as text cannot
const STYLES =
  `const n=document.currentScript.nonce,c=document.createElement;document.createElement=function(...a){` +
  `const e=c.apply(this,a);if(e.localName==='style')e.nonce=n;return e}`;

export default async function RootLayout({ children }: { children: ReactNode }) {
  // scripts run by this response's word alone; asking for it also keeps pages from being made ahead
  const nonce = (await headers()).get(NONCE) ?? undefined;
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: `${THEME};{${STYLES}}` }} />
      </head>
      <body>
        <Providers>{children}</Providers>
      </body>
    </html>
  );
}
