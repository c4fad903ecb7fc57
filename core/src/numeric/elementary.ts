/**
 * Elementary functions made only of + − × ÷, square root and bit operations, so that every
 * engine returns the same bits. Argument reductions and minimax polynomials follow the freely
 * available FDLIBM (Sun Microsystems 1993); each is tested to 2 ulp.
 */

const f64 = new Float64Array(1);
const u32 = new Uint32Array(f64.buffer);
f64[0] = 1;
const HI = u32[1] === 0x3ff00000 ? 1 : 0;
const LO = 1 - HI;

const LN2_HI = 6.9314718036912381649e-1;
const LN2_LO = 1.90821492927058770002e-10;
const INV_LN2 = 1.442695040888963387;

export const PI = 3.141592653589793;
/** Degrees to radians. */
export const DEG = PI / 180;

/** 2^n for an integer n within the normal exponent range −1022…1023. */
function powerOfTwo(n: number): number {
  u32[HI] = (n + 1023) << 20;
  u32[LO] = 0;
  return f64[0] as number;
}

/** x·2^n, exact save for gradual underflow. */
function scale(x: number, n: number): number {
  if (n > 1023) return x * powerOfTwo(1023) * powerOfTwo(n - 1023 > 1023 ? 1023 : n - 1023);
  if (n < -1022) return n < -2044 ? 0 : x * powerOfTwo(n + 1000) * powerOfTwo(-1000);
  return x * powerOfTwo(n);
}

/** e^x. Overflows to Infinity above 709.78, underflows to 0 below −745.13. */
export function exp(x: number): number {
  if (x !== x) return x;
  if (x > 709.782712893384) return Infinity;
  if (x < -745.133219101941) return 0;
  let k = 0;
  let hi = x;
  let lo = 0;
  if (x > 0.34657359027997264 || x < -0.34657359027997264) {
    k = Math.trunc(INV_LN2 * x + (x < 0 ? -0.5 : 0.5));
    hi = x - k * LN2_HI;
    lo = k * LN2_LO;
  }
  const r = hi - lo;
  const t = r * r;
  const c =
    r -
    t *
      (1.66666666666666019037e-1 +
        t * (-2.77777777770155933842e-3 + t * (6.61375632143793436117e-5 + t * (-1.6533902205465251539e-6 + t * 4.13813679705723846039e-8))));
  if (k === 0) return 1 - ((r * c) / (c - 2) - r);
  return scale(1 - (lo - (r * c) / (2 - c) - hi), k);
}

/** Natural logarithm. −Infinity at 0, NaN below. */
export function log(x: number): number {
  if (!(x > 0)) return x === 0 ? -Infinity : NaN;
  if (x === Infinity) return x;
  let k = 0;
  let v = x;
  if (v < 2.2250738585072014e-308) {
    v *= 18014398509481984;
    k = -54;
  }
  f64[0] = v;
  let hx = u32[HI] as number;
  k += (hx >>> 20) - 1023;
  hx &= 0xfffff;
  const i = (hx + 0x95f64) & 0x100000;
  u32[HI] = hx | (i ^ 0x3ff00000);
  k += i >>> 20;
  const f = (f64[0] as number) - 1;
  const s = f / (2 + f);
  const z = s * s;
  const w = z * z;
  const t1 = w * (3.999999999940941908e-1 + w * (2.222219843214978396e-1 + w * 1.531383769920937332e-1));
  const t2 = z * (6.66666666666673513e-1 + w * (2.857142874366239149e-1 + w * (1.818357216161805012e-1 + w * 1.479819860511658591e-1)));
  const R = t1 + t2;
  const hfsq = 0.5 * f * f;
  return k * LN2_HI - (hfsq - (s * (hfsq + R) + k * LN2_LO) - f);
}

/** x^y for x ≥ 0, or for any x when y is an integer; NaN otherwise. */
export function pow(x: number, y: number): number {
  if (y === 0) return 1;
  if (x !== x || y !== y) return NaN;
  if (y === 1) return x;
  if (y === 0.5 && x >= 0) return Math.sqrt(x);
  if (y === 2) return x * x;
  let sign = 1;
  let ax = x;
  if (x < 0) {
    if (Math.floor(y) !== y) return NaN;
    sign = Math.floor(y / 2) * 2 === y ? 1 : -1;
    ax = -x;
  }
  if (ax === 0) return y > 0 ? sign * 0 : Infinity;
  if (ax === 1) return sign;
  if (ax === Infinity) return y > 0 ? sign * Infinity : 0;
  if (y > 1e10 || y < -1e10) return ax > 1 === y > 0 ? sign * Infinity : 0;

  // log2(ax) as t1 + t2, t1 with its low 32 bits cleared
  let n = 0;
  f64[0] = ax;
  if ((u32[HI] as number) < 0x00100000) {
    f64[0] = ax * 9007199254740992;
    n = -53;
  }
  let ix = u32[HI] as number;
  const lowWord = u32[LO] as number;
  n += (ix >> 20) - 1023;
  const j = ix & 0xfffff;
  ix = j | 0x3ff00000;
  let k: number;
  if (j <= 0x3988e) k = 0;
  else if (j < 0xbb67a) k = 1;
  else {
    k = 0;
    n += 1;
    ix -= 0x00100000;
  }
  u32[HI] = ix;
  u32[LO] = lowWord;
  const m = f64[0] as number;
  const bp = k === 0 ? 1 : 1.5;
  const u = m - bp;
  const v = 1 / (m + bp);
  const ss = u * v;
  const sh = clearLow(ss);
  u32[HI] = ((ix >> 1) | 0x20000000) + 0x00080000 + (k << 18);
  u32[LO] = 0;
  let th = f64[0] as number;
  let tl = m - (th - bp);
  const sl = v * (u - sh * th - sh * tl);
  let s2 = ss * ss;
  let r =
    s2 *
    s2 *
    (5.99999999999994648725e-1 +
      s2 *
        (4.28571428578550184252e-1 +
          s2 * (3.33333329818377432918e-1 + s2 * (2.72728123808534006489e-1 + s2 * (2.30660745775561754067e-1 + s2 * 2.06975017800338417784e-1)))));
  r += sl * (sh + ss);
  s2 = sh * sh;
  th = clearLow(3 + s2 + r);
  tl = r - (th - 3 - s2);
  const uu = sh * th;
  const vv = sl * th + tl * ss;
  const ph0 = clearLow(uu + vv);
  const pl0 = vv - (ph0 - uu);
  const zh = 9.61796700954437255859e-1 * ph0;
  const zl = -7.02846165095275826516e-9 * ph0 + pl0 * 9.61796693925975554329e-1 + (k === 0 ? 0 : 1.35003920212974897128e-8);
  const dph = k === 0 ? 0 : 5.84962487220764160156e-1;
  const t1 = clearLow(zh + zl + dph + n);
  const t2 = zl - (t1 - n - dph - zh);

  const y1 = clearLow(y);
  let pl = (y - y1) * t1 + y * t2;
  let ph = y1 * t1;
  const z = pl + ph;
  if (z >= 1024) return sign * Infinity;
  if (z <= -1075) return sign * 0;
  let e = 0;
  if (z > 0.5 || z < -0.5) {
    e = Math.floor(z + 0.5);
    ph -= e;
  }
  const t = clearLow(pl + ph);
  const a = t * 6.93147182464599609375e-1;
  const b = (pl - (t - ph)) * 6.93147180559945286227e-1 + t * -1.90465429995776804525e-9;
  const q = a + b;
  const w = b - (q - a);
  const q2 = q * q;
  const c =
    q -
    q2 *
      (1.66666666666666019037e-1 +
        q2 * (-2.77777777770155933842e-3 + q2 * (6.61375632143793436117e-5 + q2 * (-1.6533902205465251539e-6 + q2 * 4.13813679705723846039e-8))));
  pl = (q * c) / (c - 2) - (w + q * w);
  return sign * scale(1 - (pl - q), e);
}

/** x with the low 32 bits of its significand cleared. */
function clearLow(x: number): number {
  f64[0] = x;
  u32[LO] = 0;
  return f64[0] as number;
}

/** Real cube root of any finite x. */
export function cbrt(x: number): number {
  if (x === 0 || x !== x || x === Infinity || x === -Infinity) return x;
  const ax = x < 0 ? -x : x;
  f64[0] = ax;
  let t: number;
  if (ax < 2.2250738585072014e-308) {
    f64[0] = ax * 18014398509481984;
    u32[HI] = ((u32[HI] as number) / 3 + 696219795) >>> 0;
  } else u32[HI] = ((u32[HI] as number) / 3 + 715094163) >>> 0;
  u32[LO] = 0;
  t = f64[0] as number;
  // rational seed to 23 bits, then one Newton step with the square exact
  const r = (t * t) / ax;
  const s = 5.42857142857142815906e-1 + r * t;
  t *= 3.57142857142857150787e-1 + 1.6071428571428572063 / (s + 1.41428571428571436819 + -7.0530612244897961105e-1 / s);
  f64[0] = t;
  u32[HI] = (u32[HI] as number) + 1;
  u32[LO] = 0;
  t = f64[0] as number;
  const q = ax / (t * t);
  t += t * ((q - t) / (t + t + q));
  return x < 0 ? -t : t;
}

/**
 * Cube root of x ≥ 0 to a relative 1e-4, for film coefficients: an exponent split by three, then a
 * step of Halley's rule. 0 below 1e-12.
 */
export function quickCbrt(x: number): number {
  if (!(x > 1e-12)) return 0;
  f64[0] = x;
  u32[HI] = u32[HI] * 0.3333333333333333 + 715094163;
  const t = f64[0];
  const c = t * t * t;
  return (t * (c + x + x)) / (c + c + x);
}

const PIO2_1 = 1.57079632673412561417;
const PIO2_1T = 6.07710050650619224932e-11;
const PIO2_2 = 6.0771005063039659766e-11;
const PIO2_2T = 2.02226624879595063154e-21;
const PIO2_3 = 2.0222662487111664558e-21;
const PIO2_3T = 8.47842766036889956997e-32;
const reduced = new Float64Array(2);

/** Reduces x by multiples of π/2 into `reduced` (head, tail); returns the quadrant 0…3. */
function reduce(x: number): number {
  const ax = x < 0 ? -x : x;
  if (ax > 1647099) throw new RangeError(`trigonometric argument ${x} is beyond ±1.6e6 rad`);
  if (ax <= 0.7853981633974483) {
    reduced[0] = x;
    reduced[1] = 0;
    return 0;
  }
  const n = Math.floor(ax * 0.6366197723675814 + 0.5);
  let r = ax - n * PIO2_1;
  let w = n * PIO2_1T;
  let y0 = r - w;
  if (y0 < 1e-4 && y0 > -1e-4) {
    let t = r;
    w = n * PIO2_2;
    r = t - w;
    w = n * PIO2_2T - (t - r - w);
    y0 = r - w;
    if (y0 < 1e-12 && y0 > -1e-12) {
      t = r;
      w = n * PIO2_3;
      r = t - w;
      w = n * PIO2_3T - (t - r - w);
      y0 = r - w;
    }
  }
  const y1 = r - y0 - w;
  if (x < 0) {
    reduced[0] = -y0;
    reduced[1] = -y1;
    return (4 - (n & 3)) & 3;
  }
  reduced[0] = y0;
  reduced[1] = y1;
  return n & 3;
}

function sinKernel(x: number, y: number): number {
  const z = x * x;
  const v = z * x;
  const r =
    8.33333333332248946124e-3 +
    z * (-1.98412698298579493134e-4 + z * (2.75573137070700676789e-6 + z * (-2.50507602534068634195e-8 + z * 1.58969099521155010221e-10)));
  return x - (z * (0.5 * y - v * r) - y - v * -1.66666666666666324348e-1);
}

function cosKernel(x: number, y: number): number {
  const z = x * x;
  const r =
    z *
    (4.16666666666666019037e-2 +
      z *
        (-1.38888888888741095749e-3 +
          z * (2.48015872894767294178e-5 + z * (-2.75573143513906633035e-7 + z * (2.0875723212981748279e-9 + z * -1.13596475577881948265e-11)))));
  const hz = 0.5 * z;
  const w = 1 - hz;
  return w + (1 - w - hz + (z * r - x * y));
}

/** Sine of x in radians, |x| ≤ 1.6e6. @throws RangeError beyond. */
export function sin(x: number): number {
  const n = reduce(x);
  const a = reduced[0] as number;
  const b = reduced[1] as number;
  return n === 0 ? sinKernel(a, b) : n === 1 ? cosKernel(a, b) : n === 2 ? -sinKernel(a, b) : -cosKernel(a, b);
}

/** Cosine of x in radians, |x| ≤ 1.6e6. @throws RangeError beyond. */
export function cos(x: number): number {
  const n = reduce(x);
  const a = reduced[0] as number;
  const b = reduced[1] as number;
  return n === 0 ? cosKernel(a, b) : n === 1 ? -sinKernel(a, b) : n === 2 ? -cosKernel(a, b) : sinKernel(a, b);
}

/** Tangent of x in radians, |x| ≤ 1.6e6. @throws RangeError beyond. */
export function tan(x: number): number {
  const n = reduce(x);
  const a = reduced[0] as number;
  const b = reduced[1] as number;
  const s = sinKernel(a, b);
  const c = cosKernel(a, b);
  return n === 0 || n === 2 ? s / c : -c / s;
}

/** Arc tangent, radians in [−π/2, π/2]. */
export function atan(x: number): number {
  if (x !== x) return x;
  const ax = x < 0 ? -x : x;
  if (ax > 7.3e19) return x < 0 ? -1.5707963267948966 : 1.5707963267948966;
  let hi = 0;
  let lo = 0;
  let t = ax;
  let direct = false;
  if (ax < 0.4375) direct = true;
  else if (ax < 0.6875) {
    t = (2 * ax - 1) / (2 + ax);
    hi = 4.63647609000806093515e-1;
    lo = 2.26987774529616870924e-17;
  } else if (ax < 1.1875) {
    t = (ax - 1) / (ax + 1);
    hi = 7.85398163397448278999e-1;
    lo = 3.06161699786838301793e-17;
  } else if (ax < 2.4375) {
    t = (ax - 1.5) / (1 + 1.5 * ax);
    hi = 9.82793723247329054082e-1;
    lo = 1.39033110312309984516e-17;
  } else {
    t = -1 / ax;
    hi = 1.570796326794896558;
    lo = 6.12323399573676603587e-17;
  }
  const z = t * t;
  const w = z * z;
  const s1 =
    z *
    (3.33333333333329318027e-1 +
      w *
        (1.42857142725034663711e-1 +
          w * (9.09088713343650656196e-2 + w * (6.66107313738753120669e-2 + w * (4.97687799461593236017e-2 + w * 1.62858201153657823623e-2)))));
  const s2 =
    w *
    (-1.99999999998764832476e-1 +
      w * (-1.1111110405462355788e-1 + w * (-7.69187620504482999495e-2 + w * (-5.83357013379057348645e-2 + w * -3.6531572744216915527e-2))));
  const r = direct ? t - t * (s1 + s2) : hi - (t * (s1 + s2) - lo - t);
  return x < 0 ? -r : r;
}

/** Angle of the point (x, y), radians in (−π, π]. */
export function atan2(y: number, x: number): number {
  if (x !== x || y !== y) return NaN;
  if (y === 0) return x > 0 || Object.is(x, 0) ? y : Object.is(y, -0) ? -PI : PI;
  if (x === 0) return y > 0 ? 1.5707963267948966 : -1.5707963267948966;
  const z = atan(Math.abs(y / x));
  if (x > 0) return y > 0 ? z : -z;
  return y > 0 ? PI - (z - 1.2246467991473531772e-16) : z - 1.2246467991473531772e-16 - PI;
}

function asinRatio(t: number): number {
  const p =
    t *
    (1.66666666666666657415e-1 +
      t *
        (-3.25565818622400915405e-1 +
          t * (2.01212532134862925881e-1 + t * (-4.00555345006794114027e-2 + t * (7.91534994289814532176e-4 + t * 3.4793310759602116757e-5)))));
  const q = 1 + t * (-2.40339491173441421878 + t * (2.02094576023350569471 + t * (-6.8828397160545329303e-1 + t * 7.70381505559019352791e-2)));
  return p / q;
}

/** Arc sine of x in [−1, 1], radians; NaN outside. */
export function asin(x: number): number {
  const ax = x < 0 ? -x : x;
  if (!(ax <= 1)) return NaN;
  if (ax < 0.5) return x + x * asinRatio(x * x);
  const t = (1 - ax) * 0.5;
  const s = Math.sqrt(t);
  const r = asinRatio(t);
  let a: number;
  if (ax >= 0.975) a = 1.5707963267948966 - (2 * (s + s * r) - 6.12323399573676603587e-17);
  else {
    const w = clearLow(s);
    const c = (t - w * w) / (s + w);
    const p = 2 * s * r - (6.12323399573676603587e-17 - 2 * c);
    const q = 7.85398163397448278999e-1 - 2 * w;
    a = 7.85398163397448278999e-1 - (p - q);
  }
  return x < 0 ? -a : a;
}

/** Arc cosine of x in [−1, 1], radians; NaN outside. */
export function acos(x: number): number {
  if (!(x <= 1 && x >= -1)) return NaN;
  if (x < 0.5 && x > -0.5) return 1.5707963267948966 - (x - (6.12323399573676603587e-17 - x * asinRatio(x * x)));
  if (x < 0) {
    const z = (1 + x) * 0.5;
    const s = Math.sqrt(z);
    return PI - 2 * (s + (asinRatio(z) * s - 6.12323399573676603587e-17));
  }
  const z = (1 - x) * 0.5;
  const s = Math.sqrt(z);
  const df = clearLow(s);
  if (s === 0) return 0;
  const c = (z - df * df) / (s + df);
  return 2 * (df + (asinRatio(z) * s + c));
}
