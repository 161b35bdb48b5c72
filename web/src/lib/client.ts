/** The only place that fetches. Every call answers with data or throws a Problem. */
import createClient from 'openapi-fetch';
import createQueries from 'openapi-react-query';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type NumberName = Schemas['NumberName'];

export type FieldError = Schemas['FieldProblem'];

/** Problem details (RFC 9457) as the API gives them. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    readonly detail: string,
    readonly errors: FieldError[] = [],
  ) {
    super(detail);
  }

  get asksToConfirm(): boolean {
    return this.code === 'unusual';
  }
}

/** What a refusal says of one field, by number and place. */
export function saidAt(
  problem: Problem | null,
  number: string,
  place?: string,
): string | undefined {
  return problem?.errors.find(
    (error) => error.number === number && (place === undefined || error.place === place),
  )?.detail;
}

let token = '';
export function rememberToken(value: string): void {
  token = value;
}

/** Whatever a call is refused with arrives as a thrown Problem: so every error is typed as one. */
type Thrown<Paths> = {
  [Path in keyof Paths]: {
    [Method in keyof Paths[Path]]: Paths[Path][Method] extends { responses: infer Answers }
      ? Omit<Paths[Path][Method], 'responses'> & {
          responses: Omit<Answers, 'default'> & {
            default: { content: { 'application/json': Problem } };
          };
        }
      : Paths[Path][Method];
  };
};

export const client = createClient<Thrown<paths>>({ baseUrl: '/' });
client.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRF-Token', token);
    return request;
  },
  async onResponse({ response }) {
    if (response.ok) return;
    const body = (await response.json().catch(() => ({}))) as Partial<Schemas['Problem']>;
    throw new Problem(
      response.status,
      body.code ?? 'unexpected',
      body.detail ?? 'Something went wrong on our side; nothing was saved.',
      body.errors ?? [],
    );
  },
  onError() {
    return new Problem(
      0,
      'offline',
      'Cabrio does not answer. What you typed is still here: try again.',
    );
  },
});

/** Changes: one hook for every call that writes. Its error is always a Problem. */
export const api = createQueries(client);

/** The data of an answer; a refusal was thrown before. */
export async function ask<T>(call: Promise<{ data?: T }>): Promise<T> {
  return (await call).data as T;
}
