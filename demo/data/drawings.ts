/** Made-up drawings of places as a picture each: a plan seen from above, in the colours of the application. */
import { crc32, deflateSync } from 'node:zlib';
import type { SampleResource } from './organization.ts';

const WIDTH = 480;
const HEIGHT = 240;

type Colour = readonly [red: number, green: number, blue: number];
const PAPER: Colour = [245, 242, 233];
const FLOOR: Colour = [232, 227, 212];
const WALL: Colour = [38, 52, 46];
const STONE: Colour = [186, 190, 178];
const LICHEN: Colour = [184, 198, 76];
const GENTIAN: Colour = [63, 71, 184];
const SEA: Colour = [150, 186, 190];

/** A picture that is painted pixel by pixel. */
class Canvas {
  private readonly pixels = Buffer.alloc(WIDTH * HEIGHT * 3);

  constructor() {
    this.rectangle(0, 0, WIDTH, HEIGHT, PAPER);
  }

  rectangle(x: number, y: number, width: number, height: number, colour: Colour): void {
    for (let row = Math.max(0, y); row < Math.min(HEIGHT, y + height); row++)
      for (let at = Math.max(0, x); at < Math.min(WIDTH, x + width); at++)
        this.dot(at, row, colour);
  }

  disc(x: number, y: number, radius: number, colour: Colour): void {
    for (let row = y - radius; row <= y + radius; row++)
      for (let at = x - radius; at <= x + radius; at++)
        if ((at - x) ** 2 + (row - y) ** 2 <= radius ** 2) this.dot(at, row, colour);
  }

  /** Hatched as taken time is. */
  hatch(x: number, y: number, width: number, height: number, colour: Colour): void {
    for (let row = y; row < y + height; row++)
      for (let at = x; at < x + width; at++) if ((at + row) % 9 < 2) this.dot(at, row, colour);
  }

  private dot(x: number, y: number, [red, green, blue]: Colour): void {
    if (x < 0 || y < 0 || x >= WIDTH || y >= HEIGHT) return;
    const at = (y * WIDTH + x) * 3;
    this.pixels[at] = red;
    this.pixels[at + 1] = green;
    this.pixels[at + 2] = blue;
  }

  /** As PNG (RFC 2083): true colour, no filter. */
  png(): Buffer {
    const rows = Buffer.alloc(HEIGHT * (WIDTH * 3 + 1));
    for (let row = 0; row < HEIGHT; row++)
      this.pixels.copy(rows, row * (WIDTH * 3 + 1) + 1, row * WIDTH * 3, (row + 1) * WIDTH * 3);
    const header = Buffer.alloc(13);
    header.writeUInt32BE(WIDTH, 0);
    header.writeUInt32BE(HEIGHT, 4);
    header.set([8, 2, 0, 0, 0], 8);
    return Buffer.concat([
      Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
      chunk('IHDR', header),
      chunk('IDAT', deflateSync(rows, { level: 3 })),
      chunk('IEND', Buffer.alloc(0)),
    ]);
  }
}

function chunk(type: string, data: Buffer): Buffer {
  const named = Buffer.concat([Buffer.from(type, 'latin1'), data]);
  const length = Buffer.alloc(4);
  length.writeUInt32BE(data.length);
  const check = Buffer.alloc(4);
  check.writeUInt32BE(crc32(named));
  return Buffer.concat([length, named, check]);
}

/** Four walls with a door and windows to one side. */
function walls(canvas: Canvas, margin: number): void {
  canvas.rectangle(margin, 24, WIDTH - 2 * margin, HEIGHT - 48, WALL);
  canvas.rectangle(margin + 6, 30, WIDTH - 2 * margin - 12, HEIGHT - 60, FLOOR);
  canvas.rectangle(margin + 30, HEIGHT - 30, 44, 6, PAPER);
  for (let x = margin + 24; x + 54 < WIDTH - margin; x += 90) canvas.rectangle(x, 24, 54, 6, SEA);
}

/** A table with as many chairs around it as there are seats, up to what can be drawn. */
function meetingRoom(canvas: Canvas, seats: number): void {
  const beside = Math.min(9, Math.max(1, Math.ceil(seats / 2)));
  const length = 44 + beside * 30;
  const x = (WIDTH - length) / 2;
  walls(canvas, Math.max(20, x - 60));
  for (let k = 0; k < beside; k++) {
    const at = Math.round(x + 37 + k * 30);
    canvas.disc(at, 84, 10, GENTIAN);
    if (k * 2 + 1 < seats) canvas.disc(at, 156, 10, GENTIAN);
  }
  canvas.rectangle(Math.round(x), 96, length, 48, STONE);
  canvas.hatch(Math.round(x), 96, length, 48, PAPER);
}

function laboratory(canvas: Canvas, seats: number): void {
  walls(canvas, 50);
  for (const y of [50, 158]) {
    canvas.rectangle(76, y, 328, 30, STONE);
    for (let k = 0; k < 3; k++) canvas.rectangle(110 + k * 110, y + 6, 34, 18, SEA);
  }
  for (let k = 0; k < Math.min(6, seats); k++) canvas.disc(110 + k * 52, 120, 9, GENTIAN);
}

function desk(canvas: Canvas, screens: number): void {
  canvas.rectangle(120, 60, 240, 96, STONE);
  canvas.hatch(120, 60, 240, 96, PAPER);
  for (let k = 0; k < screens; k++)
    canvas.rectangle(240 - screens * 44 + k * 88 + 4, 72, 80, 10, WALL);
  canvas.disc(240, 184, 22, GENTIAN);
  canvas.rectangle(120, 24, 240, 8, SEA);
}

function equipment(canvas: Canvas, units: number): void {
  const shown = Math.min(5, units);
  for (let k = 0; k < shown; k++) {
    const x = Math.round(WIDTH / 2 + (k - (shown - 1) / 2) * 84);
    canvas.rectangle(x - 2, 40, 4, 110, WALL);
    canvas.disc(x, 60, 16, LICHEN);
    canvas.rectangle(x - 26, 140, 52, 56, STONE);
    canvas.hatch(x - 26, 140, 52, 56, WALL);
  }
}

function vehicle(canvas: Canvas): void {
  canvas.rectangle(0, 176, WIDTH, 4, WALL);
  canvas.rectangle(120, 84, 240, 76, LICHEN);
  canvas.rectangle(290, 96, 56, 30, SEA);
  for (const x of [170, 310]) {
    canvas.disc(x, 160, 22, WALL);
    canvas.disc(x, 160, 9, STONE);
  }
}

function parking(canvas: Canvas, units: number): void {
  canvas.rectangle(0, 40, WIDTH, 160, STONE);
  const bays = Math.min(6, Math.max(2, units));
  const width = Math.floor(WIDTH / bays);
  for (let k = 0; k <= bays; k++) canvas.rectangle(k * width - 2, 40, 4, 160, PAPER);
  canvas.rectangle(18, 70, width - 36, 100, GENTIAN);
}

/** The drawing of a place, as PNG. */
export function drawingOf({
  kind,
  capacity = 0,
  units = 1,
  features = [],
}: SampleResource): Buffer {
  const canvas = new Canvas();
  if (kind === 'room') meetingRoom(canvas, capacity);
  else if (kind === 'lab') laboratory(canvas, capacity);
  else if (kind === 'desk') desk(canvas, features.includes('two screens') ? 2 : 1);
  else if (kind === 'equipment') equipment(canvas, units);
  else if (kind === 'vehicle') vehicle(canvas);
  else parking(canvas, units);
  return canvas.png();
}
