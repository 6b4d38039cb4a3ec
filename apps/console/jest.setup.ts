import '@testing-library/jest-dom';
import { configure } from '@testing-library/react';

// A busy machine takes longer than the second that is usual; a condition that comes true ends the wait.
configure({ asyncUtilTimeout: 10_000 });
jest.setTimeout(60_000);

// React keeps where each element was made, which Jest has a hundred frames deep.
Error.stackTraceLimit = 10;

// The style of an element is reckoned from all rules of the page at each look, and a look by role takes one at every element. Elements that
// are alike, in and under what is alike, have one style; no rule here asks for more than that.
const reckon = window.getComputedStyle.bind(window);
const kinds = new Map<string, number>();
let styles = new Map<string, CSSStyleDeclaration>();
let sheets = 0;
let kindOf = new WeakMap<Element, number>();
const changes = new MutationObserver(() => (kindOf = new WeakMap()));
changes.observe(document, { subtree: true, childList: true, attributes: true });

function kind(element: Element): number {
  const known = kindOf.get(element);
  if (known !== undefined) return known;
  let text = `${element.parentElement ? kind(element.parentElement) : ''} ${element.tagName}`;
  for (const { name, value } of element.attributes) text += ` ${name}=${value}`;
  const found = kinds.get(text) ?? kinds.size;
  kinds.set(text, found);
  kindOf.set(element, found);
  return found;
}

window.getComputedStyle = (element, pseudo) => {
  // What stands outside the document changes unseen.
  if (!element.isConnected) return reckon(element, pseudo);
  if (changes.takeRecords().length > 0) kindOf = new WeakMap();
  if (document.styleSheets.length !== sheets) {
    sheets = document.styleSheets.length;
    styles = new Map();
  }
  const key = `${kind(element)}${pseudo ?? ''}`;
  const style = styles.get(key) ?? reckon(element, pseudo);
  styles.set(key, style);
  return style;
};
