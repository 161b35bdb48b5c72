/** A file from a phone made ready to send: a large photo is made smaller, a clip goes as it is. */

/** Longest side of a photo that is sent [px]. */
const LONGEST = 2000;
/** A photo up to this many bytes is sent as it is. */
const SMALL = 1_000_000;
/** What the server keeps of one file, in bytes. */
export const LARGEST = 6 * 2 ** 20;

/** The file in base64. Raises an Error with a sentence for one that is too large. */
export async function shrunk(file: File): Promise<string> {
  const small = file.type.startsWith('image/') && file.size > SMALL ? await smaller(file) : file;
  if (small.size > LARGEST)
    throw new Error(`“${file.name}” is larger than 6 MB: cut the clip shorter.`);
  return base64(new Uint8Array(await small.arrayBuffer()));
}

/** How large a photo is drawn, its longest side held to the limit. */
export function fitted(width: number, height: number): [number, number] {
  const by = Math.min(1, LONGEST / Math.max(width, height));
  return [Math.round(width * by), Math.round(height * by)];
}

async function smaller(file: File): Promise<Blob> {
  let photo: ImageBitmap;
  try {
    photo = await createImageBitmap(file, { imageOrientation: 'from-image' });
  } catch {
    return file; // what cannot be drawn goes as it is: the server says what it makes of it
  }
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = fitted(photo.width, photo.height);
  canvas.getContext('2d')?.drawImage(photo, 0, 0, canvas.width, canvas.height);
  photo.close();
  return new Promise((done) => {
    canvas.toBlob((blob) => done(blob ?? file), 'image/jpeg', 0.85);
  });
}

/** Bytes in base64, a piece at a time: a call takes so many arguments and no more. */
export function base64(bytes: Uint8Array): string {
  const piece = 0x8000;
  let text = '';
  for (let at = 0; at < bytes.length; at += piece)
    text += String.fromCharCode(...bytes.subarray(at, at + piece));
  return btoa(text);
}
