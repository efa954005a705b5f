import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';

const SOURCES = import.meta.dirname;
const STYLES = join(SOURCES, '../node_modules/@mantine/core/styles');

it('the styles of all components in use are loaded', () => {
  const sources = readdirSync(SOURCES, { recursive: true, encoding: 'utf8' })
    .filter((name) => /\.tsx?$/.test(name))
    .map((name) => readFileSync(join(SOURCES, name), 'utf8'));
  const imports = sources.flatMap((text) => [...text.matchAll(/import \{([^}]*)\} from '@mantine\/core'/g)]);
  const components = new Set(imports.flatMap(([, names]) => (names ?? '').split(',').map((n) => n.trim())));
  const loaded = readFileSync(join(SOURCES, 'styles.ts'), 'utf8');
  const missing = [...components].filter(
    (name) => existsSync(join(STYLES, `${name}.css`)) && !loaded.includes(`/${name}.css`),
  );
  expect(missing).toEqual([]);
});
