const escaped = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

/** A page of one sentence, for when the application itself cannot be shown. */
export const plainPage = (title: string, detail: string, nonce: string): string => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escaped(title)} – Jute Grid</title>
<style nonce="${nonce}">
  body { margin: 0; min-height: 100vh; display: grid; place-items: center; background: #efece4; color: #2b2a26;
    font: 16px/1.5 system-ui, sans-serif; }
  main { max-width: 36rem; padding: 2.5rem; background: #faf8f3; border: 1px solid #d8d2c4; border-radius: 6px; }
  h1 { font-size: 1.25rem; margin: 0 0 .75rem; }
  p { margin: 0; overflow-wrap: anywhere; white-space: pre-line; }
</style>
</head>
<body><main><h1>${escaped(title)}</h1><p>${escaped(detail)}</p></main></body>
</html>
`;
