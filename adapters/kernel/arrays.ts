// Places of the arrays and numbers the walks read and write. The host puts each there under its exported name:
// m_ of the compiled model, p_ of its pattern of zones, s_ of the state, r_ of the step's record, k_ of the books,
// n_ the length of an array, FLOW_ TERM_ MODE_ EXTRA_ SKY_ OPTIC_ the core's own numbering.

/** Float64Array at a fixed place. */
@unmanaged
export class Reals {
  @inline @operator("[]") get(i: i32): f64 {
    return load<f64>(changetype<usize>(this) + ((<usize>i) << 3));
  }
  @inline @operator("[]=") set(i: i32, v: f64): void {
    store<f64>(changetype<usize>(this) + ((<usize>i) << 3), v);
  }
  /** Two neighbours at once. */
  @inline two(i: i32): v128 {
    return v128.load(changetype<usize>(this) + ((<usize>i) << 3));
  }
  @inline put(i: i32, v: v128): void {
    v128.store(changetype<usize>(this) + ((<usize>i) << 3), v);
  }
  /** Two neighbours, or one twice. */
  @inline lanes(i: i32, pair: bool): v128 {
    return pair ? this.two(i) : f64x2.splat(this[i]);
  }
  @inline putLanes(i: i32, v: v128, pair: bool): void {
    if (pair) this.put(i, v);
    else this[i] = f64x2.extract_lane(v, 0);
  }
  @inline clear(n: i32): void {
    memory.fill(changetype<usize>(this), 0, (<usize>n) << 3);
  }
  @inline copy(from: Reals, n: i32): void {
    memory.copy(changetype<usize>(this), changetype<usize>(from), (<usize>n) << 3);
  }
}

/** Int32Array at a fixed place. */
@unmanaged
export class Integers {
  @inline @operator("[]") get(i: i32): i32 {
    return load<i32>(changetype<usize>(this) + ((<usize>i) << 2));
  }
  @inline @operator("[]=") set(i: i32, v: i32): void {
    store<i32>(changetype<usize>(this) + ((<usize>i) << 2), v);
  }
}

/** Uint8Array at a fixed place. */
@unmanaged
export class Bytes {
  @inline @operator("[]") get(i: i32): i32 {
    return <i32>load<u8>(changetype<usize>(this) + <usize>i);
  }
  @inline @operator("[]=") set(i: i32, v: i32): void {
    store<u8>(changetype<usize>(this) + <usize>i, <u8>v);
  }
}

export let m_area: Reals = changetype<Reals>(0);
export let m_area0: Reals = changetype<Reals>(0);
export let m_innerCapacity: Reals = changetype<Reals>(0);
export let m_passWeight0: Reals = changetype<Reals>(0);
export let m_passWeight1: Reals = changetype<Reals>(0);
export let m_meanPort0: Reals = changetype<Reals>(0);
export let m_meanPort1: Reals = changetype<Reals>(0);
export let m_decay: Reals = changetype<Reals>(0);
export let m_uptake0: Reals = changetype<Reals>(0);
export let m_uptake1: Reals = changetype<Reals>(0);
export let m_nominal0: Reals = changetype<Reals>(0);
export let m_nominal1: Reals = changetype<Reals>(0);
export let m_facing0: Reals = changetype<Reals>(0);
export let m_warm0: Reals = changetype<Reals>(0);
export let m_cold0: Reals = changetype<Reals>(0);
export let m_warm1: Reals = changetype<Reals>(0);
export let m_cold1: Reals = changetype<Reals>(0);
export let m_steadyWarm0: Reals = changetype<Reals>(0);
export let m_steadyCold0: Reals = changetype<Reals>(0);
export let m_steadyWarm1: Reals = changetype<Reals>(0);
export let m_steadyCold1: Reals = changetype<Reals>(0);
export let m_exchange0: Reals = changetype<Reals>(0);
export let m_exchange1: Reals = changetype<Reals>(0);
export let m_beamShare0: Reals = changetype<Reals>(0);
export let m_diffuseShare0: Reals = changetype<Reals>(0);
export let m_beamShare1: Reals = changetype<Reals>(0);
export let m_diffuseShare1: Reals = changetype<Reals>(0);
export let m_solarAbsorptance: Reals = changetype<Reals>(0);
export let m_emissivity0: Reals = changetype<Reals>(0);
export let m_forced: Reals = changetype<Reals>(0);
export let m_skyView: Reals = changetype<Reals>(0);
export let m_skyShare: Reals = changetype<Reals>(0);
export let m_horizonShare: Reals = changetype<Reals>(0);
export let m_glassShare: Reals = changetype<Reals>(0);
export let m_glassOptics: Reals = changetype<Reals>(0);
export let m_angleTable: Reals = changetype<Reals>(0);
export let m_groundConductance: Reals = changetype<Reals>(0);
export let m_groundTemperature: Reals = changetype<Reals>(0);
export let m_classNormal: Reals = changetype<Reals>(0);
export let m_classCos: Reals = changetype<Reals>(0);
export let m_classSin: Reals = changetype<Reals>(0);
export let m_classAzimuth: Reals = changetype<Reals>(0);
export let m_lit: Reals = changetype<Reals>(0);
export let m_zoneVolume: Reals = changetype<Reals>(0);
export let s_coolingMost: Reals = changetype<Reals>(0);
export let s_coolingSlope: Reals = changetype<Reals>(0);
export let s_heatingMost: Reals = changetype<Reals>(0);
export let s_heatingSlope: Reals = changetype<Reals>(0);
export let s_fixedHeat: Reals = changetype<Reals>(0);
export let s_fixedConductance: Reals = changetype<Reals>(0);
export let m_radiantWeight: Reals = changetype<Reals>(0);
export let m_termValue: Reals = changetype<Reals>(0);
export let s_sky: Reals = changetype<Reals>(0);
export let s_a: Reals = changetype<Reals>(0);
export let s_tout: Reals = changetype<Reals>(0);
export let s_tin: Reals = changetype<Reals>(0);
export let s_values: Reals = changetype<Reals>(0);
export let s_work: Reals = changetype<Reals>(0);
export let s_rhs: Reals = changetype<Reals>(0);
export let s_solution: Reals = changetype<Reals>(0);
export let s_nodes: Reals = changetype<Reals>(0);
export let s_airStart: Reals = changetype<Reals>(0);
export let s_p0: Reals = changetype<Reals>(0);
export let s_p1: Reals = changetype<Reals>(0);
export let s_direct00: Reals = changetype<Reals>(0);
export let s_direct01: Reals = changetype<Reals>(0);
export let s_direct11: Reals = changetype<Reals>(0);
export let s_s0: Reals = changetype<Reals>(0);
export let s_s1: Reals = changetype<Reals>(0);
export let s_input0: Reals = changetype<Reals>(0);
export let s_input1: Reals = changetype<Reals>(0);
export let s_room0: Reals = changetype<Reals>(0);
export let s_room1: Reals = changetype<Reals>(0);
export let s_alpha0: Reals = changetype<Reals>(0);
export let s_alpha1: Reals = changetype<Reals>(0);
export let s_g00: Reals = changetype<Reals>(0);
export let s_g01: Reals = changetype<Reals>(0);
export let s_g11: Reals = changetype<Reals>(0);
export let s_hc0: Reals = changetype<Reals>(0);
export let s_hr0: Reals = changetype<Reals>(0);
export let s_hc1: Reals = changetype<Reals>(0);
export let s_hr1: Reals = changetype<Reals>(0);
export let s_drive: Reals = changetype<Reals>(0);
export let s_forced: Reals = changetype<Reals>(0);
export let s_natural: Reals = changetype<Reals>(0);
export let s_ho: Reals = changetype<Reals>(0);
export let s_glassG: Reals = changetype<Reals>(0);
export let s_glassShareIn: Reals = changetype<Reals>(0);
export let s_glassHeat: Reals = changetype<Reals>(0);
export let s_glassAbsorbed0: Reals = changetype<Reals>(0);
export let s_glassAbsorbed1: Reals = changetype<Reals>(0);
export let s_beamThrough: Reals = changetype<Reals>(0);
export let s_diffuseThrough: Reals = changetype<Reals>(0);
export let s_beamIn: Reals = changetype<Reals>(0);
export let s_diffuseIn: Reals = changetype<Reals>(0);
export let s_sunToAir: Reals = changetype<Reals>(0);
export let s_glassSun: Reals = changetype<Reals>(0);
export let s_sunKept: Reals = changetype<Reals>(0);
export let s_infiltrationFlow: Reals = changetype<Reals>(0);
export let s_airFlow: Reals = changetype<Reals>(0);
export let s_airSupply: Reals = changetype<Reals>(0);
export let s_extraMost: Reals = changetype<Reals>(0);
export let s_extraTarget: Reals = changetype<Reals>(0);
export let s_passNow: Reals = changetype<Reals>(0);
export let s_classBeam: Reals = changetype<Reals>(0);
export let s_classCosine: Reals = changetype<Reals>(0);
export let s_classSky: Reals = changetype<Reals>(0);
export let s_classHorizon: Reals = changetype<Reals>(0);
export let s_reflectedOn: Reals = changetype<Reals>(0);
export let s_beamOn: Reals = changetype<Reals>(0);
export let s_diffuseOn: Reals = changetype<Reals>(0);
export let s_hourTerms: Reals = changetype<Reals>(0);
export let s_scheduled: Reals = changetype<Reals>(0);
export let s_lightingLeft: Reals = changetype<Reals>(0);
export let r_airTemperature: Reals = changetype<Reals>(0);
export let r_radiantTemperature: Reals = changetype<Reals>(0);
export let r_heating: Reals = changetype<Reals>(0);
export let r_cooling: Reals = changetype<Reals>(0);
export let r_flows: Reals = changetype<Reals>(0);
export let r_sunBy: Reals = changetype<Reals>(0);
export let r_faceFlow0: Reals = changetype<Reals>(0);
export let r_faceFlow1: Reals = changetype<Reals>(0);
export let r_faceSum0: Reals = changetype<Reals>(0);
export let r_faceSum1: Reals = changetype<Reals>(0);
export let r_flowSum: Reals = changetype<Reals>(0);
export let r_incidentSum: Reals = changetype<Reals>(0);
export let r_transmittedSum: Reals = changetype<Reals>(0);
export let r_sunBySum: Reals = changetype<Reals>(0);
export let r_heatTarget: Reals = changetype<Reals>(0);
export let r_coolTarget: Reals = changetype<Reals>(0);
export let r_extraFlow: Reals = changetype<Reals>(0);
export let r_incident: Reals = changetype<Reals>(0);
export let r_litShare: Reals = changetype<Reals>(0);
export let r_transmitted: Reals = changetype<Reals>(0);
export let k_zoneResidual: Reals = changetype<Reals>(0);
export let k_zoneGross: Reals = changetype<Reals>(0);
export let k_elementHeat: Reals = changetype<Reals>(0);
export let k_elementGross: Reals = changetype<Reals>(0);
export let m_modeStart: Integers = changetype<Integers>(0);
export let m_zone0: Integers = changetype<Integers>(0);
export let m_zone1: Integers = changetype<Integers>(0);
export let m_orientation: Integers = changetype<Integers>(0);
export let m_litRow: Integers = changetype<Integers>(0);
export let m_glassOf: Integers = changetype<Integers>(0);
export let m_groundRow: Integers = changetype<Integers>(0);
export let m_roleFlow: Integers = changetype<Integers>(0);
export let m_passZone0: Integers = changetype<Integers>(0);
export let m_passZone1: Integers = changetype<Integers>(0);
export let m_passBlock01: Integers = changetype<Integers>(0);
export let m_passBlock10: Integers = changetype<Integers>(0);
export let m_block01: Integers = changetype<Integers>(0);
export let m_block10: Integers = changetype<Integers>(0);
export let m_termZone: Integers = changetype<Integers>(0);
export let m_termSchedule: Integers = changetype<Integers>(0);
export let m_termKind: Integers = changetype<Integers>(0);
export let m_termControl: Integers = changetype<Integers>(0);
export let p_order: Integers = changetype<Integers>(0);
export let p_lowerStart: Integers = changetype<Integers>(0);
export let p_lowerBlock: Integers = changetype<Integers>(0);
export let p_upperBlock: Integers = changetype<Integers>(0);
export let p_neighbour: Integers = changetype<Integers>(0);
export let p_updateBlock: Integers = changetype<Integers>(0);
export let p_rowStart: Integers = changetype<Integers>(0);
export let p_rowBlock: Integers = changetype<Integers>(0);
export let p_rowColumn: Integers = changetype<Integers>(0);
export let k_unsettled: Integers = changetype<Integers>(0);
export let m_glassDirection: Bytes = changetype<Bytes>(0);
export let s_mode: Bytes = changetype<Bytes>(0);
export let s_extraKind: Bytes = changetype<Bytes>(0);
export let s_blindDown: Bytes = changetype<Bytes>(0);
export let m_zones: i32 = 0;
export let m_elements: i32 = 0;
export let m_opaqueEnd: i32 = 0;
export let m_groundEnd: i32 = 0;
export let m_exterior: i32 = 0;
export let m_wind: i32 = 0;
export let m_naturalInside: i32 = 0;
export let m_naturalOutside: i32 = 0;
export let m_sweeps: i32 = 0;
export let m_terms: i32 = 0;
export let n_hourTerms: i32 = 0;
export let n_classBeam: i32 = 0;
export let n_passNow: i32 = 0;
export let n_traced: i32 = 0;
export let p_size: i32 = 0;
export let p_blocks: i32 = 0;
export let FLOWS: i32 = 0;
export let OPTICS: i32 = 0;
export let ANGLE_STEPS: i32 = 0;
export let GLASS_NODES: i32 = 0;
export let m_dt: f64 = 0;
export let m_airDensity: f64 = 0;
export let FLOW_sun: i32 = 0;
export let FLOW_glassSun: i32 = 0;
export let FLOW_people: i32 = 0;
export let FLOW_lighting: i32 = 0;
export let FLOW_appliances: i32 = 0;
export let FLOW_heating: i32 = 0;
export let FLOW_cooling: i32 = 0;
export let FLOW_infiltration: i32 = 0;
export let FLOW_outdoorAir: i32 = 0;
export let FLOW_openedAir: i32 = 0;
export let FLOW_betweenZones: i32 = 0;
export let FLOW_storage: i32 = 0;
export let TERM_peopleRadiant: i32 = 0;
export let TERM_peopleConvective: i32 = 0;
export let TERM_lightingRadiant: i32 = 0;
export let TERM_lightingConvective: i32 = 0;
export let TERM_applianceRadiant: i32 = 0;
export let TERM_applianceConvective: i32 = 0;
export let MODE_FLOAT: i32 = 0;
export let MODE_HEAT: i32 = 0;
export let MODE_HEAT_FULL: i32 = 0;
export let MODE_COOL: i32 = 0;
export let MODE_COOL_FULL: i32 = 0;
export let MODE_FREE: i32 = 0;
export let MODE_FREE_FULL: i32 = 0;
export let MODE_FREE_COOL: i32 = 0;
export let MODE_FREE_COOL_FULL: i32 = 0;
export let EXTRA_WINDOWS: i32 = 0;
export let SKY_EAST: i32 = 0;
export let SKY_NORTH: i32 = 0;
export let SKY_UP: i32 = 0;
export let SKY_DIRECT: i32 = 0;
export let SKY_DIFFUSE: i32 = 0;
export let SKY_CIRCUMSOLAR: i32 = 0;
export let SKY_HORIZON: i32 = 0;
export let SKY_MONTH: i32 = 0;
export let SKY_LIT_AA: i32 = 0;
export let SKY_LIT_AB: i32 = 0;
export let SKY_LIT_BA: i32 = 0;
export let SKY_LIT_BB: i32 = 0;
export let SKY_LIT_HOUR: i32 = 0;
export let SKY_LIT_DAY: i32 = 0;
export let OPTIC_NODES: i32 = 0;
export let OPTIC_ROW: i32 = 0;
export let OPTIC_DIFFUSE: i32 = 0;
export let OPTIC_ABSORBED: i32 = 0;
export let OPTIC_TO_AIR: i32 = 0;
export let WIND_NONE: i32 = 0;
export let WIND_PLAIN: i32 = 0;

/** Weather of the step: outdoor and sky temperature (°C), wind (m/s), its direction (°), heat capacity of air (J/kgK), month. Filled by the host before the first pass. */
export let b_weather: Reals = changetype<Reals>(0);

/** The numbers of `b_weather` by name. */
export class Weather {
  @inline static outdoor(): f64 {
    return b_weather[0];
  }
  @inline static sky(): f64 {
    return b_weather[1];
  }
  @inline static wind(): f64 {
    return b_weather[2];
  }
  @inline static windDirection(): f64 {
    return b_weather[3];
  }
  @inline static cp(): f64 {
    return b_weather[4];
  }
  @inline static month(): i32 {
    return <i32>b_weather[5];
  }
}
