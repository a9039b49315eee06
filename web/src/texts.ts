import english from '../../texts/en.json';
import type { Message } from './api/types';

let words: Record<string, string> = english;

/** Texts that catalogue files bring, on top of what ships. */
export const addTexts = (all: Record<string, string>) => {
  words = { ...words, ...all };
};

export const has = (code: string) => code in words;

/** The text of a code, filled; a code without a text is shown as it is, so that it is noticed. One of something has a text of its own. */
export function t(code: string, ...args: (string | number)[]): string {
  const text = (args[0] === 1 ? words[`${code}.one`] : undefined) ?? words[code] ?? code;
  // Each hole is filled once; what stands in an argument is never looked at again, whatever signs it holds.
  return args.length === 0
    ? text
    : text.replace(/\{(\d)\}/g, (hole, i: string) => (Number(i) < args.length ? argument(String(args[Number(i)])) : hole));
}

/** An argument that begins with @ is a code, or a list of them; two begin a text that somebody typed, and that begins with one. */
const argument = (text: string) =>
  text.startsWith('@@')
    ? text.slice(1)
    : text.startsWith('@')
      ? text
          .slice(1)
          .split(', @')
          .map((code) => words[code] ?? code)
          .join(', ')
      : text;

/** What the record says: its numbers come as they are written, a count first where there is a text for one. */
export const say = ({ code, args }: Message) => t(args[0] === '1' && has(`${code}.one`) ? `${code}.one` : code, ...args);
