import '@testing-library/jest-dom';
import { configure } from '@testing-library/react';

// A busy machine takes longer than the second that is usual; a condition that comes true ends the wait.
configure({ asyncUtilTimeout: 10_000 });
jest.setTimeout(30_000);

// The style of an element is reckoned from all rules of the page at each look, and a look by role takes one at every element: it is reckoned
// once between two changes of the document.
const reckon = window.getComputedStyle.bind(window);
let reckoned = new WeakMap<Element, Map<string, CSSStyleDeclaration>>();
const changes = new MutationObserver(() => (reckoned = new WeakMap()));
changes.observe(document, { subtree: true, childList: true, attributes: true, characterData: true });
window.getComputedStyle = (element, pseudo) => {
  // What stands outside the document changes unseen.
  if (!element.isConnected) return reckon(element, pseudo);
  if (changes.takeRecords().length > 0) reckoned = new WeakMap();
  const known = reckoned.get(element) ?? new Map<string, CSSStyleDeclaration>();
  reckoned.set(element, known);
  const style = known.get(pseudo ?? '') ?? reckon(element, pseudo);
  known.set(pseudo ?? '', style);
  return style;
};
