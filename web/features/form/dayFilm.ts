/** Frames of a day a second in a film. */
const FRAMES_A_SECOND = 12;

function offer(blob: Blob, name: string): void {
  const url = URL.createObjectURL(blob);
  const a = document.createElement("a");
  a.href = url;
  a.download = name;
  a.click();
  // the download has taken its copy by then
  setTimeout(() => URL.revokeObjectURL(url), 5000);
}

const plain = (name: string): string => name.trim().replace(/[^\w-]+/g, "-");
const blobOf = (canvas: HTMLCanvasElement): Promise<Blob | null> => new Promise((r) => canvas.toBlob(r, "image/png"));

/** Saves what a canvas shows as PNG. */
export async function savePicture(canvas: HTMLCanvasElement, name: string): Promise<void> {
  const blob = await blobOf(canvas);
  if (blob) offer(blob, `${plain(name)}.png`);
}

const clock = (h: number): string => `${String(Math.floor(h)).padStart(2, "0")}:${String(Math.round((h % 1) * 60)).padStart(2, "0")}`;

/** Copies the view with the hour written on it. */
function stamp(to: CanvasRenderingContext2D, from: HTMLCanvasElement, x: number, y: number, w: number, h: number, hour: number): void {
  to.fillStyle = "#FDFBF7";
  to.fillRect(x, y, w, h);
  to.drawImage(from, x, y, w, h);
  to.fillStyle = "#23262B";
  to.font = "14px 'IBM Plex Sans', sans-serif";
  to.fillText(clock(hour), x + 10, y + h - 12);
}

/** A day to be played over a view. */
export interface Sweep {
  readonly canvas: HTMLCanvasElement;
  readonly hours: readonly number[];
  /** Shows an hour and comes back when it is drawn. */
  show(hour: number): Promise<void>;
  progress(share: number): void;
  readonly name: string;
}

function blank(width: number, height: number): { sheet: HTMLCanvasElement; c: CanvasRenderingContext2D } {
  const sheet = document.createElement("canvas");
  [sheet.width, sheet.height] = [width, height];
  return { sheet, c: sheet.getContext("2d") as CanvasRenderingContext2D };
}

/** Plays the hours of a day over a view and saves it as WebM. */
export async function saveDayFilm({ canvas, hours, show, progress, name }: Sweep): Promise<void> {
  const { sheet, c } = blank(canvas.width, canvas.height);
  const stream = sheet.captureStream(FRAMES_A_SECOND);
  const recorder = new MediaRecorder(stream, { mimeType: "video/webm" });
  const chunks: Blob[] = [];
  recorder.ondataavailable = (e) => void chunks.push(e.data);
  const ended = new Promise<void>((r) => (recorder.onstop = () => r()));
  recorder.start();
  for (let i = 0; i < hours.length; i++) {
    const began = performance.now();
    await show(hours[i]);
    stamp(c, canvas, 0, 0, sheet.width, sheet.height, hours[i]);
    progress((i + 1) / hours.length);
    await new Promise((r) => setTimeout(r, Math.max(0, 1000 / FRAMES_A_SECOND - (performance.now() - began))));
  }
  recorder.stop();
  await ended;
  offer(new Blob(chunks, { type: "video/webm" }), `${plain(name)}.webm`);
}

/** Nine hours of a day side by side as one PNG. */
export async function saveDayPicture({ canvas, hours, show, progress, name }: Sweep): Promise<void> {
  const across = 3;
  const [w, h] = [Math.round(canvas.width / 2), Math.round(canvas.height / 2)];
  const { sheet, c } = blank(across * w, 3 * h);
  for (let i = 0; i < 9; i++) {
    const hour = hours[Math.round(((i + 0.5) / 9) * (hours.length - 1))];
    await show(hour);
    stamp(c, canvas, (i % across) * w, Math.floor(i / across) * h, w, h, hour);
    progress((i + 1) / 9);
  }
  const blob = await blobOf(sheet);
  if (blob) offer(blob, `${plain(name)}.png`);
}
