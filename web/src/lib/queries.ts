/** Keys and fetchers in one place; no key is written in a component. */
import { infiniteQueryOptions, queryOptions, skipToken } from '@tanstack/react-query';
import type { paths } from './schema';
import { ask, client, rememberToken, type NumberName, type Schemas } from './client';

export const meQuery = queryOptions({
  queryKey: ['me'],
  queryFn: async () => {
    const me = await ask(client.GET('/api/session'));
    rememberToken(me.token);
    return me;
  },
  staleTime: Infinity,
});

export const demoPeopleQuery = queryOptions({
  queryKey: ['demo-people'],
  queryFn: () => ask(client.GET('/api/demo-people')),
  staleTime: Infinity,
});

export const teamQuery = queryOptions({
  queryKey: ['team'],
  queryFn: () => ask(client.GET('/api/people')),
});

export const doneQuery = (car: number) =>
  infiniteQueryOptions({
    queryKey: ['done', car],
    queryFn: ({ pageParam }) =>
      ask(client.GET('/api/done', { params: { query: { before: pageParam, car } } })),
    initialPageParam: 0,
    getNextPageParam: (last) => last.older ?? undefined,
  });

export const signInsQuery = queryOptions({
  queryKey: ['sign-ins'],
  queryFn: () => ask(client.GET('/api/sign-ins')),
});

export const vocabularyQuery = queryOptions({
  queryKey: ['vocabulary'],
  queryFn: () => ask(client.GET('/api/vocabulary')),
  staleTime: Infinity,
});

export const garageQuery = queryOptions({
  queryKey: ['garage'],
  queryFn: () => ask(client.GET('/api/cars')),
});

const path = (car: number) => ({ params: { path: { car_id: car } } });

export const benchQuery = (car: number) =>
  queryOptions({
    queryKey: ['car', car, 'bench'],
    queryFn: () => ask(client.GET('/api/cars/{car_id}', path(car))),
    refetchInterval: 15_000, // someone else may book meanwhile
  });

export const springsQuery = (car: number) =>
  queryOptions({
    queryKey: ['car', car, 'springs'],
    queryFn: () => ask(client.GET('/api/cars/{car_id}/springs', path(car))),
  });

export interface BallastAsked {
  mass: string;
  behind_front: string;
  to_left: string;
  solve: '' | 'total_mass' | 'front_share' | 'left_share' | 'cross_share';
  target: string;
}

export const ballastQuery = (car: number, revision: number, slip: number, asked: BallastAsked) =>
  queryOptions({
    queryKey: ['car', car, 'ballast', revision, slip, asked],
    queryFn: ({ signal }) =>
      ask(
        client.GET('/api/cars/{car_id}/ballast', {
          params: { path: { car_id: car }, query: asked },
          signal,
        }),
      ),
  });

export const sideViewQuery = (car: number, revision: number, slip: number) =>
  queryOptions({
    queryKey: ['car', car, 'side-view', revision, slip],
    queryFn: ({ signal }) =>
      ask(client.GET('/api/cars/{car_id}/side-view', { ...path(car), signal })),
  });

export const squareQuery = (car: number, stamp: string) =>
  queryOptions({
    queryKey: ['car', car, 'square', stamp],
    queryFn: () => ask(client.GET('/api/cars/{car_id}/square', path(car))),
  });

export interface GaugeAsked {
  pinion: string;
  pinion_rises: boolean;
  shaft: string;
  shaft_rises: boolean;
}

export const gaugeQuery = (car: number, asked: GaugeAsked) =>
  queryOptions({
    queryKey: ['car', car, 'pinion-gauge', asked],
    queryFn: ({ signal }) =>
      ask(
        client.GET('/api/cars/{car_id}/pinion-gauge', {
          params: { path: { car_id: car }, query: asked },
          signal,
        }),
      ),
    staleTime: Infinity,
  });

export const holesQuery = (
  car: number,
  revision: number,
  asked: { anti_squat: string; ic_x: string; nose_down: boolean },
) =>
  queryOptions({
    queryKey: ['car', car, 'holes', revision, asked],
    queryFn: () =>
      ask(
        client.GET('/api/cars/{car_id}/holes', {
          params: { path: { car_id: car }, query: asked },
        }),
      ),
  });

export const plotQuery = (car: number, x: NumberName, y: NumberName[], slip: number) =>
  queryOptions({
    queryKey: ['car', car, 'plot', x, y, slip],
    queryFn: () =>
      ask(
        client.GET('/api/cars/{car_id}/plot', {
          params: { path: { car_id: car }, query: { x, y: y.join(',') } },
        }),
      ),
  });

export const adviceQuery = (
  car: number,
  state: string,
  asked: {
    symptom: string;
    phase: string;
    school: 'A' | 'B';
    severity: 'slight' | 'clear' | 'strong';
    corner: '' | 'slow' | 'fast';
    surface: '' | 'poor' | 'good';
  },
) =>
  queryOptions({
    queryKey: ['car', car, 'advice', state, asked],
    queryFn: () =>
      ask(
        client.GET('/api/cars/{car_id}/advice', {
          params: { path: { car_id: car }, query: asked },
        }),
      ),
  });

export const walksQuery = (car: number) =>
  queryOptions({
    queryKey: ['car', car, 'walks'],
    queryFn: () => ask(client.GET('/api/cars/{car_id}/walks', path(car))),
    refetchInterval: 15_000, // somebody else may tick meanwhile
  });

export const watchedQuery = (car: number, state: string) =>
  queryOptions({
    queryKey: ['car', car, 'watched', state],
    queryFn: () => ask(client.GET('/api/cars/{car_id}/watched', path(car))),
  });

export const outcomeQuery = (car: number, revision: number) =>
  queryOptions({
    queryKey: ['car', car, 'outcome', revision],
    queryFn: () =>
      ask(
        client.GET('/api/cars/{car_id}/revisions/{number}/outcome', {
          params: { path: { car_id: car, number: revision } },
        }),
      ),
  });

export type PlanAsked = Required<Schemas['PlanIn']>;

export const plansQuery = (car: number, state: string, asked: PlanAsked) =>
  queryOptions({
    queryKey: ['car', car, 'plans', state, asked],
    queryFn: ({ signal }) =>
      ask(client.POST('/api/cars/{car_id}/plans', { ...path(car), body: asked, signal })),
    staleTime: Infinity,
  });

export interface CutAsked {
  place: 'LF' | 'RF' | 'LR' | 'RR';
  coils: string;
  off: string;
}

export const cutQuery = (car: number, revision: number, asked: CutAsked) =>
  queryOptions({
    queryKey: ['car', car, 'cut', revision, asked],
    queryFn: () =>
      ask(
        client.GET('/api/cars/{car_id}/springs/cut', {
          params: { path: { car_id: car }, query: asked },
        }),
      ),
    retry: false,
  });

export interface Asked {
  sideways?: number;
  along?: number;
  speed?: number;
}

export const underLoadQuery = (car: number, revision: number, slip: number, asked: Asked) =>
  queryOptions({
    queryKey: ['car', car, 'under-load', revision, slip, asked],
    queryFn: () =>
      ask(
        client.GET('/api/cars/{car_id}/under-load', {
          params: { path: { car_id: car }, query: asked },
        }),
      ),
  });

export const aroundLoadQuery = (car: number, revision: number, slip: number, asked: Asked) =>
  queryOptions({
    queryKey: ['car', car, 'around-load', revision, slip, asked],
    queryFn: () =>
      ask(
        client.GET('/api/cars/{car_id}/under-load/around', {
          params: { path: { car_id: car }, query: asked },
        }),
      ),
  });

export const chartQuery = (car: number, revision: number, slip: number, name: string) =>
  queryOptions({
    queryKey: ['car', car, 'chart', revision, slip, name],
    queryFn: () =>
      ask(
        client.GET('/api/cars/{car_id}/charts/{name}', {
          params: { path: { car_id: car, name } },
        }),
      ),
  });

export const treadQuery = (car: number, stamp: string) =>
  queryOptions({
    queryKey: ['car', car, 'tread', stamp],
    queryFn: () =>
      ask(client.GET('/api/cars/{car_id}/tread', { params: { path: { car_id: car } } })),
  });

export interface TrialAsked {
  name: string;
  size?: string;
  speed?: string;
  against?: number;
}

export const trialQuery = (
  car: number,
  revision: number,
  slip: number,
  { name, ...query }: TrialAsked,
) =>
  queryOptions({
    queryKey: ['car', car, 'trial', revision, slip, name, query],
    queryFn: ({ signal }) =>
      ask(
        client.GET('/api/cars/{car_id}/trials/{name}', {
          params: { path: { car_id: car, name }, query },
          signal,
        }),
      ),
  });

export const ledgerQuery = (car: number, stamp: string) =>
  queryOptions({
    queryKey: ['car', car, 'ledger', stamp],
    queryFn: () =>
      ask(client.GET('/api/cars/{car_id}/ledger', { params: { path: { car_id: car } } })),
  });

export const lineErrorQuery = (car: number, revision: number) =>
  queryOptions({
    queryKey: ['car', car, 'drift', revision],
    queryFn: () =>
      ask(client.GET('/api/cars/{car_id}/line-error', { params: { path: { car_id: car } } })),
  });

export const ladderQuery = (car: number, revision: number, settings: NumberName[]) =>
  queryOptions({
    queryKey: ['car', car, 'ladder', revision, settings],
    queryFn: () =>
      ask(
        client.GET('/api/cars/{car_id}/ladder', {
          params: { path: { car_id: car }, query: { settings: settings.join(',') } },
        }),
      ),
  });

export type GeometryAsked = NonNullable<
  paths['/api/cars/{car_id}/geometry']['get']['parameters']['query']
>;

export const geometryQuery = (car: number, revision: number, slip: number, asked: GeometryAsked) =>
  queryOptions({
    queryKey: ['car', car, 'geometry', revision, slip, asked],
    queryFn: () =>
      ask(
        client.GET('/api/cars/{car_id}/geometry', {
          params: { path: { car_id: car }, query: asked },
        }),
      ),
  });

export const fuelQuery = (car: number, revision: number, slip: number) =>
  queryOptions({
    queryKey: ['car', car, 'fuel', revision, slip],
    queryFn: () => ask(client.GET('/api/cars/{car_id}/fuel', path(car))),
  });

export const readingsQuery = (car: number, kind: string) =>
  queryOptions({
    queryKey: ['car', car, 'readings', kind],
    queryFn: () =>
      ask(
        client.GET('/api/cars/{car_id}/readings', {
          params: { path: { car_id: car }, query: { kind } },
        }),
      ),
  });

/** The logbook, a page after the other, the newest first. */
export const logbookQuery = (car: number, part = '') =>
  infiniteQueryOptions({
    queryKey: ['car', car, 'logbook', part],
    queryFn: ({ pageParam }) =>
      ask(
        client.GET('/api/cars/{car_id}/logbook', {
          params: { path: { car_id: car }, query: { before: pageParam, part } },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: (last) => last.older ?? undefined,
  });

/** The last runs, for who wants to see just these. */
export const lastRunsQuery = (car: number) =>
  queryOptions({
    queryKey: ['car', car, 'logbook-last'],
    queryFn: () => ask(client.GET('/api/cars/{car_id}/logbook', path(car))),
  });

export const sessionNamesQuery = (car: number) =>
  queryOptions({
    queryKey: ['car', car, 'session-names'],
    queryFn: () => ask(client.GET('/api/cars/{car_id}/sessions', path(car))),
  });

export const runQuery = (car: number, run: number) =>
  queryOptions({
    queryKey: ['car', car, 'run', run],
    queryFn: () =>
      ask(
        client.GET('/api/cars/{car_id}/runs/{run_id}', {
          params: { path: { car_id: car, run_id: run } },
        }),
      ),
  });

export const floorQuery = (car: number, revision: number) =>
  queryOptions({
    queryKey: ['car', car, 'floor', revision],
    queryFn: () =>
      ask(client.GET('/api/cars/{car_id}/floor', { params: { path: { car_id: car } } })),
  });

export const compareQuery = (car: number, left: number, right: number) =>
  queryOptions({
    queryKey: ['car', car, 'compare', left, right],
    queryFn: () =>
      ask(
        client.GET('/api/cars/{car_id}/compare', {
          params: { path: { car_id: car }, query: { left, right } },
        }),
      ),
  });

export const workingQuery = (car: number, name: NumberName) =>
  queryOptions({
    queryKey: ['car', car, 'working', name],
    queryFn: () =>
      ask(
        client.GET('/api/cars/{car_id}/working/{name}', {
          params: { path: { car_id: car, name } },
        }),
      ),
  });

/** Everything known of one car, for invalidation after a change. */
export const carKey = (car: number) => ['car', car] as const;

/** How far long work is that was asked for here: the stream tells, nobody asks. */
export interface Step {
  done: number;
  of: number;
  words: string;
}
export const stepKey = ['step'];
export const stepQuery = queryOptions<Step>({ queryKey: stepKey, queryFn: skipToken });
