/** Nothing jumps: pages open at their top, back returns to where one was, a second press never lands elsewhere. */
import { useEffect, useLayoutEffect, useRef } from 'react';
import { NavigationType, useLocation, useNavigationType } from 'react-router';
import { SECOND_PRESS_MS } from '../lib/client';

const SECOND_PRESS_PX = 24;
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

/** What a press is on: of a label and its field, the field. */
function pressedAt(target: EventTarget | null): Element | null {
  if (!(target instanceof Element)) return null;
  return (
    target.closest('label')?.control ??
    target.closest(
      'button, a, [role="button"], summary, input[type="checkbox"], input[type="radio"]',
    )
  );
}

interface Press {
  /** [ms] */
  at: number;
  x: number;
  y: number;
  /** What it is on; null where that takes no press. */
  on: unknown;
}

/** Whether a press is the second of one: as soon, in the same place, and on something else. */
export function isSecondPress(press: Press, last: Press): boolean {
  const near = Math.hypot(press.x - last.x, press.y - last.y) < SECOND_PRESS_PX;
  const soon = press.at - last.at < SECOND_PRESS_MS;
  return near && soon && press.on !== null && press.on !== last.on;
}

/** A double press does one thing: what slid under the pointer meanwhile is not pressed. A finger's taps are not
 * counted by every browser, so a second press is told by its time and place; who typed or turned the wheel between
 * them pressed twice. */
export function guardSecondPress(): void {
  let last: Press = { at: -Infinity, x: 0, y: 0, on: null };
  const forget = (event: Event) => {
    const ticked = event.target instanceof Element && pressedAt(event.target) !== null;
    if (event.type !== 'input' || !ticked) last = { ...last, at: -Infinity };
  };
  for (const kind of ['input', 'keydown', 'wheel', 'touchmove'])
    document.addEventListener(kind, forget, { capture: true, passive: true });
  document.addEventListener(
    'click',
    (event) => {
      if (event.detail === 0) return; // of a key
      const { timeStamp: at, clientX: x, clientY: y } = event;
      const press = { at, x, y, on: pressedAt(event.target) };
      if (isSecondPress(press, last)) {
        event.preventDefault();
        event.stopPropagation();
        return;
      }
      last = press;
    },
    true,
  );
}
