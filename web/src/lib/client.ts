/** The only place that fetches. Every call answers with data or throws a Problem. */
import createClient from 'openapi-fetch';
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
    readonly data: Record<string, unknown> = {},
  ) {
    super(detail);
  }

  /** The sentence for one field, by number and place. */
  at(number: string, place?: string): string | undefined {
    return this.errors.find(
      (error) => error.number === number && (place === undefined || error.place === place),
    )?.detail;
  }

  get asksToConfirm(): boolean {
    return this.code === 'unusual';
  }
}

let token = '';
export function rememberToken(value: string): void {
  token = value;
}

export const client = createClient<paths>({ baseUrl: '/' });
client.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRF-Token', token);
    return request;
  },
});

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** Unwraps an answer: the data, or a thrown Problem. */
export async function ask<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    throw new Problem(
      0,
      'offline',
      'Cabrio does not answer. What you typed is still here: try again.',
    );
  }
  if (answer.data !== undefined) return answer.data;
  const body = (answer.error ?? {}) as Partial<Problem> & { detail?: string };
  throw new Problem(
    answer.response.status,
    body.code ?? 'unexpected',
    body.detail ?? 'Something went wrong on our side; nothing was saved.',
    body.errors ?? [],
    body.data ?? {},
  );
}
