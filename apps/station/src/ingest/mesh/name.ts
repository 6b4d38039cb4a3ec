import { elementForm } from '@tombolo/core';

/**
 * What a node is called here: by its tag, unless that could pass for somebody else – a call sign, or a service of the directory. Anybody
 * gives his node any tag; then its number stands for it.
 */
export const calledName = (tag: string, number: string, services: ReadonlySet<string>): string =>
  elementForm(tag) === 'station' || services.has(tag.trim().toUpperCase()) ? number : tag;
