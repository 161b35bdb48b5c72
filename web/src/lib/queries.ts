/** What is asked of the server, each once. The key of a question is the question itself: path and parameters. */
import { keepPreviousData, queryOptions, skipToken } from '@tanstack/react-query';
import type { paths } from './schema';
import { api, ask, client, rememberToken, type NumberName, type Schemas } from './client';
import { workedFrom } from './worked';

/** The query parameters of a question about a car. */
type AskedOf<Path extends keyof paths> = paths[Path] extends {
  get: { parameters: { query?: infer Query } };
}
  ? NonNullable<Query>
  : never;

const FOREVER = { staleTime: Infinity };
/** Somebody else may book, or tick, meanwhile [ms]. */
const LOOK_AGAIN = { refetchInterval: 15_000 };
const OLDER = {
  getNextPageParam: (last: { older?: string | number | null }) => last.older ?? undefined,
  placeholderData: keepPreviousData,
};

export const meQuery = {
  ...api.queryOptions('get', '/api/session', undefined, FOREVER),
  queryFn: async () => {
    const me = await ask(client.GET('/api/session'));
    rememberToken(me.token);
    return me;
  },
};
export const vocabularyQuery = api.queryOptions('get', '/api/vocabulary', undefined, FOREVER);
export const demoPeopleQuery = api.queryOptions('get', '/api/demo-people', undefined, FOREVER);
export const teamQuery = api.queryOptions('get', '/api/people');
export const signInsQuery = api.queryOptions('get', '/api/sign-ins');
export const garageQuery = api.queryOptions('get', '/api/cars');

/** What was done by the team, or to one car, a page after the other. */
export const useDone = (car: number) =>
  api.useInfiniteQuery(
    'get',
    '/api/done',
    { params: { query: { car } } },
    { pageParamName: 'before', initialPageParam: 0, ...OLDER },
  );

const of = (car: number) => ({ params: { path: { car_id: car } } });
const ofWith = <Query>(car: number, query: Query) => ({
  params: { path: { car_id: car }, query },
});

export const benchQuery = (car: number) =>
  api.queryOptions('get', '/api/cars/{car_id}', of(car), LOOK_AGAIN);

// the record of a car: asked for again when something is written to it

/** The logbook, a page after the other, the newest first. */
export const useLogbook = (car: number, part: string) =>
  api.useInfiniteQuery('get', '/api/cars/{car_id}/logbook', ofWith(car, { part }), {
    pageParamName: 'before',
    initialPageParam: '',
    ...OLDER,
  });

/** The last runs, for who wants to see just these. */
export const lastRunsQuery = (car: number) =>
  api.queryOptions('get', '/api/cars/{car_id}/logbook', of(car));

export const sessionNamesQuery = (car: number) =>
  api.queryOptions('get', '/api/cars/{car_id}/sessions', of(car));

export const runQuery = (car: number, run: number) =>
  api.queryOptions('get', '/api/cars/{car_id}/runs/{run_id}', {
    params: { path: { car_id: car, run_id: run } },
  });

export const readingsQuery = (car: number, kind: string) =>
  api.queryOptions('get', '/api/cars/{car_id}/readings', ofWith(car, { kind }));

export const walksQuery = (car: number) =>
  api.queryOptions('get', '/api/cars/{car_id}/walks', of(car), LOOK_AGAIN);

export const outcomeQuery = (car: number, revision: number) =>
  api.queryOptions('get', '/api/cars/{car_id}/revisions/{number}/outcome', {
    params: { path: { car_id: car, number: revision } },
  });

export const springsQuery = (car: number) =>
  api.queryOptions('get', '/api/cars/{car_id}/springs', of(car));

// worked from the car as it is booked

export const watchedQuery = (car: number) =>
  api.queryOptions('get', '/api/cars/{car_id}/watched', of(car), workedFrom('booked'));

export const squareQuery = (car: number) =>
  api.queryOptions('get', '/api/cars/{car_id}/square', of(car), workedFrom('booked'));

export const treadQuery = (car: number) =>
  api.queryOptions('get', '/api/cars/{car_id}/tread', of(car), workedFrom('booked'));

export const ledgerQuery = (car: number) =>
  api.queryOptions('get', '/api/cars/{car_id}/ledger', of(car), workedFrom('booked'));

export const lineErrorQuery = (car: number) =>
  api.queryOptions('get', '/api/cars/{car_id}/line-error', of(car), workedFrom('booked'));

export const floorQuery = (car: number) =>
  api.queryOptions('get', '/api/cars/{car_id}/floor', of(car), workedFrom('booked'));

export const compareQuery = (car: number, left: number, right: number) =>
  api.queryOptions(
    'get',
    '/api/cars/{car_id}/compare',
    ofWith(car, { left, right }),
    workedFrom('booked'),
  );

export const ladderQuery = (car: number, settings: NumberName[]) =>
  api.queryOptions(
    'get',
    '/api/cars/{car_id}/ladder',
    ofWith(car, { settings: settings.join(',') }),
    workedFrom('booked'),
  );

export const holesQuery = (car: number, asked: AskedOf<'/api/cars/{car_id}/holes'>) =>
  api.queryOptions('get', '/api/cars/{car_id}/holes', ofWith(car, asked), workedFrom('booked'));

export type CutAsked = Required<AskedOf<'/api/cars/{car_id}/springs/cut'>>;
export const cutQuery = (car: number, asked: CutAsked) =>
  api.queryOptions(
    'get',
    '/api/cars/{car_id}/springs/cut',
    ofWith(car, asked),
    workedFrom('booked'),
  );

export type PlanAsked = Required<Schemas['PlanIn']>;
export const plansQuery = (car: number, asked: PlanAsked) =>
  api.queryOptions(
    'post',
    '/api/cars/{car_id}/plans',
    { ...of(car), body: asked },
    workedFrom('booked'),
  );

export type GaugeAsked = Required<AskedOf<'/api/cars/{car_id}/pinion-gauge'>>;
export const gaugeQuery = (car: number, asked: GaugeAsked) =>
  api.queryOptions('get', '/api/cars/{car_id}/pinion-gauge', ofWith(car, asked), FOREVER);

// worked from the car with what is on the slip

export const workingQuery = (car: number, name: NumberName) =>
  api.queryOptions(
    'get',
    '/api/cars/{car_id}/working/{name}',
    { params: { path: { car_id: car, name } } },
    workedFrom('drafted'),
  );

export const chartQuery = (car: number, name: string) =>
  api.queryOptions(
    'get',
    '/api/cars/{car_id}/charts/{name}',
    { params: { path: { car_id: car, name } } },
    workedFrom('drafted'),
  );

export const plotQuery = (car: number, x: NumberName, y: NumberName[]) =>
  api.queryOptions(
    'get',
    '/api/cars/{car_id}/plot',
    ofWith(car, { x, y: y.join(',') }),
    workedFrom('drafted'),
  );

export const sideViewQuery = (car: number) =>
  api.queryOptions('get', '/api/cars/{car_id}/side-view', of(car), workedFrom('drafted'));

export type BallastAsked = AskedOf<'/api/cars/{car_id}/ballast'>;
export const ballastQuery = (car: number, asked: BallastAsked) =>
  api.queryOptions('get', '/api/cars/{car_id}/ballast', ofWith(car, asked), workedFrom('drafted'));

export const adviceQuery = (car: number, asked: AskedOf<'/api/cars/{car_id}/advice'>) =>
  api.queryOptions('get', '/api/cars/{car_id}/advice', ofWith(car, asked), workedFrom('drafted'));

export type TrialAsked = AskedOf<'/api/cars/{car_id}/trials/{name}'> & { name: string };
export const trialQuery = (car: number, { name, ...query }: TrialAsked) =>
  api.queryOptions(
    'get',
    '/api/cars/{car_id}/trials/{name}',
    { params: { path: { car_id: car, name }, query } },
    workedFrom('drafted'),
  );

// the same, where it takes the server long: once the hand on the slip rests

export type LoadAsked = AskedOf<'/api/cars/{car_id}/under-load'>;
export const underLoadQuery = (car: number, asked: LoadAsked) =>
  api.queryOptions(
    'get',
    '/api/cars/{car_id}/under-load',
    ofWith(car, asked),
    workedFrom('rested'),
  );

export const aroundLoadQuery = (car: number, asked: LoadAsked) =>
  api.queryOptions(
    'get',
    '/api/cars/{car_id}/under-load/around',
    ofWith(car, asked),
    workedFrom('rested'),
  );

export type GeometryAsked = AskedOf<'/api/cars/{car_id}/geometry'>;
export const geometryQuery = (car: number, asked: GeometryAsked) =>
  api.queryOptions('get', '/api/cars/{car_id}/geometry', ofWith(car, asked), workedFrom('rested'));

export const fuelQuery = (car: number) =>
  api.queryOptions('get', '/api/cars/{car_id}/fuel', of(car), workedFrom('rested'));

/** How far long work is that was asked for here: the stream tells, nobody asks. */
export interface Step {
  done: number;
  of: number;
  words: string;
}
export const stepKey = ['step'];
export const stepQuery = queryOptions<Step>({ queryKey: stepKey, queryFn: skipToken });
