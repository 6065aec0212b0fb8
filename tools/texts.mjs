// Writes docs/texts.md: every text of the cards by what it claims, for those who read them through.
//   node tools/texts.mjs
import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { dirname, join } from 'node:path';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');
const read = file => JSON.parse(readFileSync(join(root, 'data/advice', file)));
const claims = read('claims.json').claims;
const texts = new Map(); // text and claims → where it stands
for (const family of ['squat', 'lunge', 'hinge', 'bridge', 'any'])
  for (const card of read(`cards/${family}.json`).cards)
    for (const part of ['say', 'change', 'prepare'])
      for (const t of card[part] ?? []) {
        const made = (t.claims ?? []).join(' ');
        const key = `${t.text}|${made}`;
        if (!texts.has(key)) texts.set(key, { text: t.text, claims: t.claims ?? [], parts: new Set(), asks: new Set(), on: new Set() });
        const known = texts.get(key);
        known.parts.add(part);
        known.on.add(`${family}: ${card.fault}`);
        if (t.ask) known.asks.add(`${t.ask.kind} ${t.ask.rung}`);
      }

const more = ['deeper', 'higher', 'longer', 'heavier', 'faster'];
const order = [...more, ...claims.map(c => c.id).filter(id => !more.includes(id))];
const row = t => `| ${t.text} | ${t.claims.join(' ')} | ${[...t.asks].join(', ')} | ${[...t.parts].join(', ')} | ${[...t.on].join(', ')} |`;
const table = list => ['| text | claims | asks | part | on the cards of |', '|---|---|---|---|---|',
  ...list.sort((a, b) => (a.text < b.text ? -1 : 1)).map(row), ''];
const all = [...texts.values()];
const out = [`# What the texts claim

Made by \`node tools/texts.mjs\` from \`data/advice\`; \`test_advice\` fails where texts and claims are others. A text is listed under each claim it makes, first those that are never said
while something hurts; at the end those that claim nothing. A text that changes is read twice: once as the coach who says it (is it true of that movement, that school, that fault?), once as the
one who answers for a client in whom something hurts (does it ask for more of anything?).
`];
for (const id of order) {
  const list = all.filter(t => t.claims.includes(id));
  out.push(`## ${id} (${list.length})`, '', claims.find(c => c.id === id).why, '', ...table(list));
}
const none = all.filter(t => t.claims.length === 0);
out.push(`## No claim (${none.length})`, '', 'Their words hold them back at no level short of stop.', '', ...table(none));
writeFileSync(join(root, 'docs/texts.md'), out.join('\n'));
