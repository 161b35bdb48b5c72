import { describe, expect, it } from 'vitest';
import { base64, fitted, LARGEST, shrunk } from './photo';

describe('a photo before it is sent', () => {
  it('keeps its shape and is never made larger', () => {
    expect(fitted(4000, 3000)).toEqual([2000, 1500]);
    expect(fitted(1500, 6000)).toEqual([500, 2000]);
    expect(fitted(640, 480)).toEqual([640, 480]);
  });

  it('is told in base64 whole, however long', () => {
    const bytes = new Uint8Array(100_001).map((_, i) => i % 251);
    const back = Uint8Array.from(atob(base64(bytes)), (one) => one.charCodeAt(0));
    expect(back).toEqual(bytes);
  });

  it('refuses a clip that is too large by its name', async () => {
    const clip = new File([new Uint8Array(LARGEST + 1)], 'launch.mp4', { type: 'video/mp4' });
    await expect(shrunk(clip)).rejects.toThrow('“launch.mp4” is larger than 6 MB');
  });
});
