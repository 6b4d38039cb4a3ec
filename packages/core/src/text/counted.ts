/** `1 packet`, `2 packets`, `0 packets`; `many` where an s does not make it more. */
export const counted = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;
