import { readFileSync } from 'node:fs';
import sharp from 'sharp';

/** The lines of a soak's log as a picture: memory, handles, and what a change took (95th percentile). */
const ROWS = [
  { column: 1, label: 'resident memory, MB', colour: '#a8392b' },
  { column: 2, label: 'open handles', colour: '#3f6b5c' },
  { column: 3, label: 'a change, ms (95th percentile)', colour: '#31507d' },
];
const [WIDTH, ROW, LEFT, TOP] = [900, 190, 70, 34];

export async function drawSoak(log: string, picture: string): Promise<void> {
  const lines = readFileSync(log, 'utf8')
    .trim()
    .split('\n')
    .map((line) => line.split(',').map(Number));
  const minutes = lines.at(-1)![0];
  const x = (minute: number) => LEFT + ((WIDTH - LEFT - 20) * minute) / minutes;
  const rows = ROWS.map(({ column, label, colour }, n) => {
    const most = Math.max(...lines.map((l) => l[column])) * 1.1;
    const foot = TOP + (n + 1) * ROW - 40;
    const y = (value: number) => foot - ((ROW - 60) * value) / most;
    const path = lines.map((l, i) => `${i ? 'L' : 'M'}${x(l[0]).toFixed(1)} ${y(l[column]).toFixed(1)}`).join('');
    return (
      `<text x="${LEFT}" y="${foot - ROW + 52}" fill="${colour}">${label}</text>` +
      `<path d="M${LEFT} ${y(most)}V${foot}H${WIDTH - 20}" stroke="#b9b2a3" fill="none"/>` +
      `<text x="${LEFT - 8}" y="${y(most / 1.1) + 4}" text-anchor="end">${Math.round(most / 1.1)}</text>` +
      `<text x="${LEFT - 8}" y="${foot + 4}" text-anchor="end">0</text>` +
      `<path d="${path}" stroke="${colour}" stroke-width="2" fill="none"/>`
    );
  });
  const height = TOP + ROWS.length * ROW;
  const foot = `<text x="${WIDTH - 20}" y="${height - 12}" text-anchor="end">${minutes.toFixed(0)} minutes</text>`;
  const svg =
    `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${height}" font-family="sans-serif" ` +
    `font-size="13" fill="#55514a"><rect width="100%" height="100%" fill="#faf8f3"/>${rows.join('')}${foot}</svg>`;
  await sharp(Buffer.from(svg)).png().toFile(picture);
}
