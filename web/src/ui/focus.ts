/**
 * Where the keys go when what had the focus is gone: never to nowhere. A page marks its place with `data-home`, such as the row at hand,
 * and with `data-home=onward` the way on where nothing is left to do; else it is the page itself.
 */

/** What can be focused and is shown, first of its kind within. */
const WITHIN = 'a[href],button:not([disabled]),input:not([disabled]),select:not([disabled]),textarea:not([disabled]),[tabindex]';

const homes = () => {
  const sheet = document.querySelector<HTMLElement>('[role=dialog]');
  if (sheet) return sheet.querySelector<HTMLElement>(WITHIN) ?? sheet;
  return (
    document.querySelector<HTMLElement>('[data-home=onward]') ??
    document.querySelector<HTMLElement>('[data-home]') ??
    document.querySelector<HTMLElement>('main')
  );
};

/** Gives the keys back to the page. */
export function focusHome() {
  const home = homes();
  if (!home) return;
  if (home.tabIndex < 0 && !home.hasAttribute('tabindex')) home.tabIndex = -1;
  home.focus({ preventScroll: true });
}

/** Whether the keys act on nothing just now. */
export const isNowhere = () => !document.activeElement || document.activeElement === document.body;

/** Watches that the focus, once it was somewhere, does not fall to nowhere because its place went or was switched off. */
export function keepFocus() {
  let last: Element | null = null;
  document.addEventListener('focusin', (event) => (last = event.target as Element));
  // Who presses on bare paper has put the focus away.
  document.addEventListener('pointerdown', (event) => {
    if (event.target instanceof Element && !event.target.closest(`${WITHIN},label`)) last = null;
  });
  const look = () => {
    if (last && isNowhere() && (!last.isConnected || last.matches(':disabled'))) {
      last = null;
      focusHome();
    }
  };
  new MutationObserver(() => {
    if (last && isNowhere()) requestAnimationFrame(look);
  }).observe(document.body, { childList: true, subtree: true, attributes: true, attributeFilter: ['disabled'] });
}
