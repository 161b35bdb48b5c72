import '@fontsource/ibm-plex-sans/latin-400.css';
import '@fontsource/ibm-plex-sans/latin-500.css';
import '@fontsource/ibm-plex-sans/latin-600.css';
import '@fontsource/saira-semi-condensed/latin-400.css';
import '@fontsource/saira-semi-condensed/latin-500.css';
import '@fontsource/saira-semi-condensed/latin-600.css';
import './styles/main.scss';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter } from 'react-router';
import { Problem } from './lib/client';
import { benchQuery, meQuery, vocabularyQuery } from './lib/queries';
import { followCars } from './lib/worked';
import { App } from './shell/App';
import { guardSecondPress } from './shell/steady';
import { startTheme } from './lib/theme';

startTheme();
guardSecondPress();
window.history.scrollRestoration = 'manual';
const queries = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (count, error) => count < 2 && error instanceof Problem && error.status === 0,
      staleTime: 2_000,
    },
  },
});
followCars(queries);
// What every page needs is asked for at once, not one answer after another.
const early = (asked: Promise<unknown>) => void asked.catch(() => undefined); // the page says why
early(queries.query(meQuery));
early(queries.query(vocabularyQuery));
const car = /^\/cars\/(\d+)/.exec(window.location.pathname)?.[1];
if (car) {
  void import('./stations/Station');
  early(queries.query(benchQuery(Number(car))));
}
const root = document.getElementById('root');
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  );
