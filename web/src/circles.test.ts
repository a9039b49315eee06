import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect, it } from 'vitest';

const root = dirname(fileURLToPath(import.meta.url));
const files = readdirSync(root, { recursive: true, encoding: 'utf8' })
  .filter((name) => /\.tsx?$/.test(name) && !/\.test\.ts$|\.d\.ts$/.test(name))
  .map((name) => join(root, name));

/** What a file takes from others when it is loaded; what is only a type, or is loaded later, makes no circle. */
function taken(file: string): string[] {
  const text = readFileSync(file, 'utf8');
  return [...text.matchAll(/^(?:import|export)\s(?!type\b)[^;]*?from\s+'(\.[^']*)';|^import\s+'(\.[^']*)';/gm)].flatMap((found) => {
    const path = join(dirname(file), found[1] ?? found[2] ?? '');
    return [path, `${path}.ts`, `${path}.tsx`].filter((candidate) => files.includes(candidate));
  });
}

it('no file takes from another what, by whatever way, is taken from it', () => {
  const done = new Set<string>();
  const circles: string[] = [];
  const walk = (file: string, way: string[]) => {
    if (way.includes(file)) circles.push([...way.slice(way.indexOf(file)), file].map((f) => relative(root, f)).join(' -> '));
    else if (!done.has(file)) {
      for (const next of taken(file)) walk(next, [...way, file]);
      done.add(file);
    }
  };
  expect(files.length).toBeGreaterThan(80);
  expect(files.flatMap(taken).length).toBeGreaterThan(300);
  for (const file of files) walk(file, []);
  expect(circles).toEqual([]);
});
