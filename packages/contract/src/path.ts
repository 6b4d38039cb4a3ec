import { parseAddress } from '@tombolo/core';
import { z } from 'zod';

/** A path element such as WIDE1-1. */
export const pathElement = z.string().superRefine((text, context) => {
  const address = parseAddress(text);
  if (!address.ok) context.addIssue({ code: 'custom', message: `${text}: ${address.error.reason}` });
});

export const path = z.array(pathElement).max(8, 'a path has at most 8 elements');
