/** Nothing jumps: pages open at their top, back returns to where one was, a second press never lands elsewhere. */
import { useEffect, useLayoutEffect, useRef } from 'react';
import { NavigationType, useLocation, useNavigationType } from 'react-router';

const SECOND_PRESS_MS = 500;
const RETURN_TRIES = 40;
const RETURN_EVERY_MS = 50;

/** Open each page at its top; on the way back or forward return to where one was, once it is that long. */
export function useSteadyScroll(): void {
  const { key, pathname, hash } = useLocation();
  const way = useNavigationType();
  const left = useRef(new Map<string, number>());
  const before = useRef(pathname);
  useEffect(() => {
    const kept = left.current;
    const keep = () => kept.set(key, window.scrollY);
    window.addEventListener('scroll', keep, { passive: true });
    return () => window.removeEventListener('scroll', keep);
  }, [key]);
  useLayoutEffect(() => {
    const moved = before.current !== pathname;
    before.current = pathname;
    const wanted = way === NavigationType.Pop ? left.current.get(key) : undefined;
    if (wanted === undefined) {
      if (moved && !hash) window.scrollTo(0, 0);
      return;
    }
    let tries = 0;
    const timer = setInterval(() => {
      window.scrollTo(0, wanted);
      tries += 1;
      if (Math.abs(window.scrollY - wanted) < 2 || tries > RETURN_TRIES) clearInterval(timer);
    }, RETURN_EVERY_MS);
    const stop = () => clearInterval(timer);
    window.addEventListener('wheel', stop, { once: true, passive: true });
    return () => {
      stop();
      window.removeEventListener('wheel', stop);
    };
  }, [key, way, pathname, hash]);
}

/** A double press does one thing: what slid under the pointer meanwhile is not pressed. */
export function guardSecondPress(): void {
  let pressed: Element | null = null;
  let at = -Infinity;
  document.addEventListener(
    'click',
    (event) => {
      const target = event.target instanceof Element ? event.target : null;
      const button = target?.closest('button, a, [role="button"], summary') ?? null;
      const again = event.detail > 1 && event.timeStamp - at < SECOND_PRESS_MS;
      if (again && button !== null && button !== pressed) {
        event.preventDefault();
        event.stopPropagation();
        return;
      }
      pressed = button;
      at = event.timeStamp;
    },
    true,
  );
}
