/** JSON for PostgreSQL, which cannot hold U+0000 in texts: it is shown as its symbol. */
export const storableJson = (value: unknown): string => JSON.stringify(value).replaceAll('\\u0000', '␀');
