/** Sorts of fields in which words and numbers are typed; what is searched for is nobody's work. */
const typed = new Set(['text', 'number', 'date', 'datetime-local', 'time', 'email', 'tel', 'url', 'password']);

/** What stands in a field that is typed in; undefined where the element is none. */
export const typedIn = (element: Element): string | undefined =>
  element instanceof HTMLTextAreaElement || (element instanceof HTMLInputElement && typed.has(element.type)) ? element.value : undefined;

/** Whether in one of these fields, that is still there, something else stands than at first. */
export const holdsWords = (fields: ReadonlyMap<Element, string>): boolean =>
  [...fields].some(([field, was]) => field.isConnected && typedIn(field) !== was);
