import { describe, expect, it } from 'vitest';
import { bodyPath, cockpitPath, planOf, WHEEL } from './outline';

const numbers = (path: string) => (path.match(/-?\d+(\.\d+)?/g) ?? []).map(Number);

describe('the car in plan', () => {
  const plan = planOf(2.6, [1.5, 1.62]);

  it('is to scale, in millimetres', () => {
    expect(plan).toMatchObject({ wheelbase: 2600, front: 1500, rear: 1620 });
    expect(plan.width).toBe(1620 + WHEEL.width + 60);
  });
  it('has usual tracks where none is known', () => {
    expect(planOf(2.6, [])).toMatchObject({ front: 1500, rear: 1500 });
  });
  it('has a body from nose to tail, within its wheels and alike left and right', () => {
    const path = bodyPath(plan);
    expect(path).toMatch(/^M0 -780C.*Z$/);
    const found = numbers(path);
    expect(Math.max(...found)).toBe(2600 + plan.tail);
    const half = plan.width / 2;
    const across =
      path.match(/[MC ](-?[\d.]+) /g)?.map((one) => Math.abs(Number(one.slice(1)))) ?? [];
    expect(Math.max(...across.filter((one) => one < 1000))).toBeLessThan(half);
    expect(found.filter((one) => found.includes(-one)).length).toBeGreaterThan(10);
  });
  it('has a cockpit between the wheels', () => {
    expect(cockpitPath(plan)).toMatch(/^M-410 936Q0 786 410 936/);
  });
});
