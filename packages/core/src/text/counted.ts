/** `1 packet`, `2 packets`, `no packets`; `many` where an s does not make it more. */
export const counted = (n: number, one: string, many = `${one}s`): string =>
  `${n === 0 ? 'no' : n} ${n === 1 ? one : many}`;
