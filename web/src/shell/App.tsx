import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useMemo } from 'react';
import { Navigate, Outlet, Route, Routes, useLocation } from 'react-router';
import { meQuery, vocabularyQuery } from '../lib/queries';
import { Dictionary, DictionaryProvider } from '../lib/vocabulary';
import { CarFrame } from './CarFrame';
import { Garage } from '../garage/Garage';
import { Join } from './Join';
import { SignIn } from './SignIn';
import { useLive } from './live';
import { useSteadyScroll } from './steady';
import { Failed, Waiting } from '../ui/states';

const Station = lazy(() => import('../stations/Station').then((m) => ({ default: m.Station })));
const Logbook = lazy(() => import('../logbook/Logbook').then((m) => ({ default: m.Logbook })));
const Walks = lazy(() => import('../walk/Walks').then((m) => ({ default: m.Walks })));
const Walk = lazy(() => import('../walk/Walk').then((m) => ({ default: m.Walk })));
const PlanOfWork = lazy(() =>
  import('../advise/PlanOfWork').then((m) => ({ default: m.PlanOfWork })),
);
const Advise = lazy(() => import('../advise/Advise').then((m) => ({ default: m.Advise })));
const Compare = lazy(() => import('../compare/Compare').then((m) => ({ default: m.Compare })));
const Team = lazy(() => import('../team/Team').then((m) => ({ default: m.Team })));
const Done = lazy(() => import('../team/Done').then((m) => ({ default: m.Done })));
const Parts = lazy(() => import('../car/Parts').then((m) => ({ default: m.Parts })));
const AsFound = lazy(() => import('../car/AsFound').then((m) => ({ default: m.AsFound })));
const CarData = lazy(() => import('../car/CarData').then((m) => ({ default: m.CarData })));

export function App() {
  useSteadyScroll();
  const me = useQuery(meQuery);
  const joining = useLocation().pathname === '/join';
  if (me.isPending) return <Waiting what="Opening Cabrio" />;
  if (me.isError) return <Failed error={me.error} again={() => void me.refetch()} />;
  if (joining) return <Join />;
  if (!me.data.name) return <SignIn demo={me.data.demo} />;
  return (
    <WithDictionary>
      <Suspense fallback={<Waiting what="Opening" />}>
        <Routes>
          <Route index element={<Garage />} />
          <Route path="team" element={<Team />} />
          <Route path="team/done" element={<Done />} />
          <Route path="cars/:car" element={<CarFrame />}>
            <Route index element={<Navigate to="plan" replace />} />
            <Route path="logbook" element={<Logbook />} />
            <Route path="advise" element={<Advise />} />
            <Route path="work" element={<PlanOfWork />} />
            <Route path="steps" element={<Walks />} />
            <Route path="steps/:procedure" element={<Walk />} />
            <Route path="compare" element={<Compare />} />
            <Route path="data" element={<CarData />} />
            <Route path="as-found" element={<AsFound />} />
            <Route path="parts" element={<Parts />} />
            <Route path=":station" element={<Station />} />
          </Route>
          <Route path="*" element={<Navigate to="/" replace />} />
        </Routes>
        <Outlet />
      </Suspense>
    </WithDictionary>
  );
}

function WithDictionary({ children }: { children: React.ReactNode }) {
  useLive();
  const words = useQuery(vocabularyQuery);
  const dictionary = useMemo(() => words.data && new Dictionary(words.data), [words.data]);
  if (words.isError) return <Failed error={words.error} again={() => void words.refetch()} />;
  if (!dictionary) return <Waiting what="Fetching the dictionary" />;
  return <DictionaryProvider value={dictionary}>{children}</DictionaryProvider>;
}
