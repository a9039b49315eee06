/** Sorts of fields in which words and numbers are typed; what is searched for is nobody's work. */
const typed = new Set(['text', 'number', 'date', 'datetime-local', 'time', 'email', 'tel', 'url', 'password']);

/** What stands in a field that is typed in; undefined where the element is none. */
export const typedIn = (element: Element): string | undefined =>
  element instanceof HTMLTextAreaElement || (element instanceof HTMLInputElement && typed.has(element.type)) ? element.value : undefined;
