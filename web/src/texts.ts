import english from '../../texts/en.json';
import type { Message } from './api/types';

let words: Record<string, string> = english;

/** Texts that catalogue files bring, on top of what ships. */
export const addTexts = (all: Record<string, string>) => {
  words = { ...words, ...all };
};

export const has = (code: string) => code in words;

/** The text of a code, filled; a code without a text is shown as it is, so that it is noticed. */
export function t(code: string, ...args: (string | number)[]): string {
  let text = words[code] ?? code;
  args.forEach((arg, i) => {
    const value = String(arg);
    text = text.replaceAll(`{${i}}`, value.startsWith('@') ? t(value.slice(1)) : value);
  });
  return text;
}

export const say = (message: Message) => t(message.code, ...message.args);
