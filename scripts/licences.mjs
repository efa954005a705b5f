#!/usr/bin/env node
// Writes docs/third-party.md: every package that is in the program, with its
// licence as its own files state it.
import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = join(dirname(fileURLToPath(import.meta.url)), '..');

const signs = [
  ['SIL OFL-1.1', /SIL OPEN FONT LICENSE/i],
  ['Apache-2.0', /Apache License/],
  ['MPL-2.0', /Mozilla Public License/],
  ['ISC', /ISC License|Permission to use, copy, modify, and\/or distribute/],
  ['MIT', /MIT License|Permission is hereby granted, free of charge/],
  ['BSD-3-Clause', /Neither the name|names of its\s+contributors/],
  ['BSD-2-Clause', /Redistributions in binary form/],
  ['FreeType or GPL-2.0', /FreeType License|FTL/],
  ['Unlicense', /unencumbered software/],
];

function licenceOf(folder) {
  const licences = new Set();
  for (const name of readdirSync(folder, { withFileTypes: true }).filter((n) => n.isFile() && /^(LICEN[CS]E|COPYING|UNLICENSE)/i.test(n.name)).map((n) => n.name).sort()) {
    const text = readFileSync(join(folder, name), 'utf8');
    const found = signs.find(([, sign]) => sign.test(text));
    if (found) licences.add(found[0]);
  }
  return [...licences].join(' and ') || 'see its files';
}

const goModules = execFileSync(
  'go',
  ['list', '-deps', '-f', '{{with .Module}}{{.Path}} {{.Version}} {{.Dir}}{{end}}', './cmd/dorbin'],
  { cwd: root, encoding: 'utf8' },
);
const goRows = [...new Set(goModules.split('\n').filter((line) => / v/.test(line)))].map((line) => {
  const [path, version, folder] = line.split(' ');
  return `| ${path} | ${version} | ${licenceOf(folder)} |`;
});

const lock = JSON.parse(readFileSync(join(root, 'web/package-lock.json'), 'utf8'));
const npmRows = Object.entries(lock.packages)
  .filter(([path, entry]) => path.startsWith('node_modules/') && !entry.dev && !entry.optional && !entry.peer)
  .map(([path, entry]) => {
    const own = JSON.parse(readFileSync(join(root, 'web', path, 'package.json'), 'utf8'));
    return `| ${path.replace(/^.*node_modules\//, '')} | ${entry.version} | ${own.license ?? 'see its files'} |`;
  });

writeFileSync(
  join(root, 'docs/third-party.md'),
  `# Third-party packages

What is in the program, besides Dorbin's own code. PDFium (BSD-3-Clause and Apache-2.0) comes as
WebAssembly inside go-pdfium. The typeface Atkinson Hyperlegible Next is under the SIL Open Font
License 1.1, the Go fonts under BSD-3-Clause. Made by \`scripts/licences\`.

## Go modules

| module | version | licence |
| --- | --- | --- |
${goRows.sort().join('\n')}

## npm packages

| package | version | licence |
| --- | --- | --- |
${npmRows.sort().join('\n')}
`,
);
