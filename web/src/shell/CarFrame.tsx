/** The bench around a car: route on the left, the sheet, the slip on the right. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Outlet, useParams } from 'react-router';
import type { NumberName } from '../lib/client';
import { benchQuery } from '../lib/queries';
import { refreshCar } from '../lib/worked';
import { WorkingPanel } from './WorkingPanel';
import { SlipPanel } from './SlipPanel';
import { SlipProvider } from '../bench/slip';
import { BenchProvider } from '../bench/bench';
import { CommandLine } from './CommandLine';
import { Header } from '../ui/Header';
import { Legend } from './Legend';
import { RouteOfWork } from './RouteOfWork';
import { Failed, Waiting } from '../ui/states';
import { useDictionary } from '../lib/vocabulary';

export function CarFrame() {
  const { car: carId } = useParams();
  const car = Number(carId);
  const queries = useQueryClient();
  const dictionary = useDictionary();
  const found = useQuery(benchQuery(car));
  const [asked, setAsked] = useState<{ name: NumberName; place?: string } | null>(null);
  const [times, setTimes] = useState(0);
  const [legend, setLegend] = useState(false);

  const refresh = useCallback(async () => {
    await refreshCar(queries, car);
  }, [queries, car]);
  const explain = useCallback((name: NumberName, place?: string) => {
    setAsked(place ? { name, place } : { name });
    setTimes((n) => n + 1);
  }, []);
  const context = useMemo(
    () => found.data && { bench: found.data, explain, refresh },
    [found.data, explain, refresh],
  );
  useHotkeys(['?', 'shift+?'], () => setLegend((open) => !open), {
    useKey: true,
    enableOnFormTags: ['spinbutton', 'select'],
  });
  const name = found.data?.name;
  useEffect(() => {
    document.title = name ? `${name} · Cabrio` : 'Cabrio';
  }, [name]);

  if (found.isError && !found.data)
    return <Failed error={found.error} again={() => void found.refetch()} />;
  if (!context) return <Waiting what="Opening the bench" />;
  const { bench } = context;
  const session = bench.session;
  return (
    <BenchProvider value={context}>
      <SlipProvider key={car}>
        <Header>
          <div className="about-car">
            <b>{bench.name}</b>
            <span>
              {bench.discipline} · {bench.race_number && `no. ${bench.race_number} · `}on revision{' '}
              <b>{bench.revision}</b>
            </span>
            {session && (
              <span className="about-session">
                for <b>{session.name}</b> · {session.place}
                {session.surface ? ` · ${session.surface}` : ''}
              </span>
            )}
          </div>
          <CommandLine />
          <span className="profile">{dictionary.shown('rate', bench.profile).symbol}</span>
        </Header>
        <div className="bench">
          <RouteOfWork openLegend={() => setLegend(true)} />
          <main className="sheet">
            <Outlet />
          </main>
          <SlipPanel />
        </div>
        {/* a panel of its own each time: one asked for again while it still slides out would stay out */}
        <WorkingPanel key={times} asked={asked} close={() => setAsked(null)} />
        <Legend show={legend} close={() => setLegend(false)} />
      </SlipProvider>
    </BenchProvider>
  );
}
