import type { z } from 'zod';

/** What a file is sent as. */
export type MediaType = `${string}/${string}`;

/** A route of the station, said once: Express, the OpenAPI document and the client derive from it. */
export interface Route {
  readonly method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  /** Under /api/v1, parameters as `:name`. */
  readonly path: `/${string}`;
  readonly summary: string;
  /** Schema of the parameters in the path; any text where it is left out. */
  readonly params?: z.ZodType;
  readonly query?: z.ZodType;
  /** `octets`: the request's body is a file, read as it comes. */
  readonly body?: z.ZodType | 'octets';
  readonly bodyLimit?: string;
  /** What is answered when all went well: JSON by a schema, a file, or nothing. */
  readonly answer: z.ZodType | MediaType | null;
  /** 200 when left out, 204 for nothing. */
  readonly status?: number;
}

export const route = <const R extends Route>(of: R): R => of;

type PathName<P extends string> = P extends `${string}:${infer Name}/${infer Rest}`
  ? Name | PathName<`/${Rest}`>
  : P extends `${string}:${infer Name}`
    ? Name
    : never;

/** Parameters in a path, as texts. */
export type PathParams<R extends Route> = { readonly [Name in PathName<R['path']>]: string };
export type ParamsOf<R extends Route> = R extends { readonly params: infer P extends z.ZodType }
  ? z.output<P>
  : PathParams<R>;
export type QueryOf<R extends Route> = R extends { readonly query: infer Q extends z.ZodType }
  ? z.output<Q>
  : undefined;
export type BodyOf<R extends Route> = R extends { readonly body: infer B extends z.ZodType } ? z.output<B> : undefined;
/** What a handler gives. */
export type AnswerOf<R extends Route> = R extends { readonly answer: infer A extends z.ZodType } ? z.output<A> : void;

/** What a client says: parameters of the path, query, body, as far as the route has them. */
export type AskedOf<R extends Route> = (PathName<R['path']> extends never
  ? unknown
  : { readonly params: PathParams<R> }) &
  (R extends { readonly query: z.ZodType }
    ? { readonly query?: Readonly<Record<string, string | number | boolean | null | undefined>> }
    : unknown) &
  (R extends { readonly body: infer B extends z.ZodType } ? { readonly body: z.input<B> } : unknown);

/** A path with its parameters filled in. */
export const pathOf = (path: string, params: Readonly<Record<string, string>> = {}): string =>
  path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(params[name] ?? ''));
