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

/** How soon after a press another one in its place is the same press. */
export const SECOND_PRESS_MS = 500;

/** Keys of requests that were sent and not answered, or just now: sent again as they were, they are done once. */
const MOST_UNANSWERED = 20;
const unanswered = new Map<string, string>();

function forget(key: string | null): void {
  for (const [what, kept] of unanswered) if (kept === key) unanswered.delete(what);
}

/** Without `randomUUID`, which a page has over TLS or on its own machine only. */
const newKey = () =>
  Array.from(crypto.getRandomValues(new Uint8Array(16)), (byte) =>
    byte.toString(16).padStart(2, '0'),
  ).join('');

async function keyOf(request: Request): Promise<[string, string]> {
  const what = `${request.method} ${request.url} ${await request.clone().text()}`;
  return [what, unanswered.get(what) ?? newKey()];
}

export const client = createClient<Thrown<paths>>({ baseUrl: '/' });
client.use({
  async onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRF-Token', token);
    if (request.method === 'POST') {
      const [what, key] = await keyOf(request);
      unanswered.set(what, key);
      if (unanswered.size > MOST_UNANSWERED) forget([...unanswered.values()][0] ?? null);
      request.headers.set('Idempotency-Key', key);
    }
    return request;
  },
  async onResponse({ request, response }) {
    const key = request.headers.get('Idempotency-Key');
    if (response.ok) {
      setTimeout(() => forget(key), SECOND_PRESS_MS);
      return;
    }
    // who is told to come back comes back with the same key
    if (response.status !== 503) forget(key);
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
