import { cos, PI } from "../numeric/index.ts";
import { noMorph, type Morph, type Normals } from "../model/index.ts";

/** A climate that ships: an invented place with its twelve normals. Typical, unverified; no real place is meant. */
export interface ShippedClimate {
  readonly name: string;
  /** Thermal climate zone and moisture letter it is made for. */
  readonly zone: string;
  readonly about: string;
  readonly latitude: number;
  readonly longitude: number;
  readonly elevation: number;
  readonly timeZone: number;
  readonly normals: Normals;
}

/** A yearly course by its values in January and July: a cosine, coldest in mid-January, warmest in mid-July. */
const course = ([january, july]: readonly [number, number], digits: number, lag = 0): number[] =>
  Array.from({ length: 12 }, (_, m) => {
    const warm = 0.5 - 0.5 * cos((2 * PI * (m - lag)) / 12);
    return Number((january + (july - january) * warm).toFixed(digits));
  });

type Span = readonly [january: number, july: number];
const normals = (temperature: Span, range: Span, humidity: Span, clearness: Span, wind: Span, from: Span): Normals => ({
  dryBulb: course(temperature, 1, 0.3),
  dailyRange: course(range, 1),
  relativeHumidity: course(humidity, 0),
  clearness: course(clearness, 2),
  windSpeed: course(wind, 1),
  windDirection: course(from, 0),
});

/** A dozen invented climates across the zones of ASHRAE 169. */
export const shippedClimates: Readonly<Record<string, ShippedClimate>> = {
  mangrove_reach: {
    name: "Mangrove Reach",
    zone: "0A",
    about: "hot and humid all year, on a river delta",
    latitude: 4.5,
    longitude: 101.2,
    elevation: 8,
    timeZone: 7,
    normals: normals([27, 28.6], [7.5, 7], [80, 82], [0.46, 0.44], [2.6, 2.9], [60, 210]),
  },
  tarn_flats: {
    name: "Tarn Flats",
    zone: "0B",
    about: "very hot and dry, with a mild winter",
    latitude: 21.5,
    longitude: 52.4,
    elevation: 120,
    timeZone: 3,
    normals: normals([19.5, 36.5], [13, 15], [50, 24], [0.62, 0.66], [3.2, 4.2], [330, 320]),
  },
  coral_sound: {
    name: "Coral Sound",
    zone: "1A",
    about: "warm islands with a steady sea wind",
    latitude: 18.4,
    longitude: -66.5,
    elevation: 15,
    timeZone: -4,
    normals: normals([23.6, 27.8], [6.5, 6.5], [74, 77], [0.54, 0.56], [4.6, 5], [75, 90]),
  },
  pinewater: {
    name: "Pinewater",
    zone: "2A",
    about: "long humid summers, short mild winters",
    latitude: 29.8,
    longitude: -93.1,
    elevation: 20,
    timeZone: -6,
    normals: normals([11.5, 28.6], [11, 9.5], [76, 77], [0.47, 0.54], [3.8, 2.8], [10, 180]),
  },
  ocotillo_gap: {
    name: "Ocotillo Gap",
    zone: "2B",
    about: "hot desert with cool nights",
    latitude: 32.6,
    longitude: -112.9,
    elevation: 330,
    timeZone: -7,
    normals: normals([12.4, 33.6], [14, 14.5], [48, 28], [0.63, 0.69], [2.4, 3], [90, 250]),
  },
  gull_harbour: {
    name: "Gull Harbour",
    zone: "3C",
    about: "cool sea air, little between summer and winter",
    latitude: 37.2,
    longitude: -122.3,
    elevation: 12,
    timeZone: -8,
    normals: normals([9.8, 15.4], [6.5, 7.5], [80, 79], [0.51, 0.62], [3.4, 5], [120, 280]),
  },
  red_clay_fork: {
    name: "Red Clay Fork",
    zone: "3A",
    about: "humid, with warm summers and cool winters",
    latitude: 33.9,
    longitude: -85.2,
    elevation: 260,
    timeZone: -5,
    normals: normals([6.2, 26.4], [11.5, 11], [68, 73], [0.48, 0.55], [3.6, 2.7], [310, 230]),
  },
  lindenmoor: {
    name: "Lindenmoor",
    zone: "4A",
    about: "temperate lowland, cloudy winters",
    latitude: 50.1,
    longitude: 8.2,
    elevation: 110,
    timeZone: 1,
    normals: normals([2.2, 19.8], [5.5, 11], [85, 68], [0.31, 0.5], [3.9, 2.9], [230, 260]),
  },
  lake_brennan: {
    name: "Lake Brennan",
    zone: "5A",
    about: "cold winters and humid summers beside a lake",
    latitude: 42.2,
    longitude: -86.4,
    elevation: 195,
    timeZone: -6,
    normals: normals([-4.2, 23.2], [7.5, 10], [76, 69], [0.44, 0.57], [4.9, 3.4], [270, 210]),
  },
  saltbrush: {
    name: "Saltbrush",
    zone: "5B",
    about: "a high dry plateau, the place of the demo library",
    latitude: 39.4,
    longitude: -108.3,
    elevation: 1600,
    timeZone: -7,
    normals: {
      dryBulb: [-4.5, -1.6, 3.4, 8.1, 13.4, 19.2, 23.6, 22.1, 16.9, 9.9, 2.4, -3.7],
      dailyRange: [12, 12.5, 13.5, 14.5, 15.5, 17, 17, 16.5, 16, 15, 12.5, 11.5],
      relativeHumidity: [68, 62, 53, 46, 43, 36, 36, 39, 42, 50, 61, 68],
      clearness: [0.55, 0.58, 0.6, 0.62, 0.64, 0.68, 0.67, 0.66, 0.66, 0.62, 0.57, 0.53],
      windSpeed: [2.6, 3, 3.6, 4, 3.9, 3.6, 3.2, 3, 3, 2.9, 2.7, 2.5],
      windDirection: [250, 250, 255, 260, 240, 220, 200, 200, 220, 240, 250, 250],
    },
  },
  granite_narrows: {
    name: "Granite Narrows",
    zone: "6A",
    about: "long cold winters with snow",
    latitude: 45.6,
    longitude: -93.8,
    elevation: 310,
    timeZone: -6,
    normals: normals([-9.6, 22.2], [9.5, 11], [74, 68], [0.48, 0.57], [4.4, 3.6], [310, 180]),
  },
  birch_landing: {
    name: "Birch Landing",
    zone: "7",
    about: "very cold, with short bright summers",
    latitude: 53.3,
    longitude: -106.7,
    elevation: 480,
    timeZone: -6,
    normals: normals([-15.5, 18], [9.5, 12], [76, 63], [0.5, 0.56], [4.2, 3.8], [290, 250]),
  },
  tundra_station: {
    name: "Tundra Station",
    zone: "8",
    about: "subarctic, with a dark winter",
    latitude: 64.7,
    longitude: -147.5,
    elevation: 140,
    timeZone: -9,
    normals: normals([-23.5, 16.4], [8.5, 11.5], [71, 61], [0.4, 0.5], [1.6, 2.8], [30, 230]),
  },
};

/** An example of changes to come: invented, after the shape of published projections; not a projection of any place. */
export interface ShippedMorph {
  readonly name: string;
  readonly label: string;
  readonly morph: Morph;
}
const morphOf = (dryBulb: Span, dailyRange: Span, humidityRatio: Span, sun: Span, cloudCover: Span, windSpeed: Span): Morph => ({
  ...noMorph(),
  dryBulb: course(dryBulb, 2),
  dailyRange: course(dailyRange, 1),
  humidityRatio: course(humidityRatio, 1),
  sun: course(sun, 1),
  cloudCover: course(cloudCover, 1),
  windSpeed: course(windSpeed, 1),
});
export const shippedMorphs: Readonly<Record<string, ShippedMorph>> = {
  "2040": { name: "2040, example", label: "2040", morph: morphOf([1, 1.4], [-1, 2], [6, 7], [-0.5, 1.5], [0.5, -1], [0, -1]) },
  "2060": { name: "2060, example", label: "2060", morph: morphOf([1.8, 2.5], [-2, 4], [11, 13], [-1, 2.5], [1, -2], [0, -2]) },
  "2090": { name: "2090, example", label: "2090", morph: morphOf([3.2, 4.5], [-3, 7], [20, 24], [-1.5, 4], [1.5, -3], [0, -4]) },
};
