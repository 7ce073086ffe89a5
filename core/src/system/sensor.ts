import type { Charger, Sensor, Site } from './system';
import type { Card } from '../card';

/** What a sensor usually promises at each place (practice, not a maker's figure); whoever knows better corrects it. */
export const usualSensor: Readonly<Record<Sensor['place'], Pick<Sensor, 'offsetC' | 'lagSeconds' | 'warmLeadC'>>> = {
  batteryCase: { offsetC: 0, lagSeconds: 540, warmLeadC: 1.5 },
  batteryPost: { offsetC: 0, lagSeconds: 420, warmLeadC: 2 },
  betweenUnits: { offsetC: 0, lagSeconds: 1200, warmLeadC: 1 },
  pad: { offsetC: 2.5, lagSeconds: 900, warmLeadC: 2 },
  air: { offsetC: 3, lagSeconds: 60, warmLeadC: 8 },
  chargerCase: { offsetC: 10, lagSeconds: 900, warmLeadC: 10 },
};

/** A sensor of which nobody has said whether and where it sits: not known counts as none. */
export const unseenSensor: Sensor = { place: 'batteryCase', errorC: 1, ...usualSensor.batteryCase };

/** The parts of a cutoff margin, °C. */
export interface CutoffMargin {
  readonly sensorError: number;
  readonly offset: number;
  readonly lag: number;
  readonly total: number;
}

/**
 * How far above the cell's limit a cutoff must stand so that the cell is never charged below it:
 * sensor error + what the sensor reads too warm + cooling rate × lag.
 * For a first-order lag τ on a steady ramp r the reading trails by r·τ (the ramp response of a first-order system).
 */
export function cutoffMargin(sensor: Sensor, site: Site): CutoffMargin {
  const sensorError = sensor.errorC;
  const offset = Math.max(0, sensor.offsetC);
  const lag = (site.coolingCPerHour * sensor.lagSeconds) / 3600;
  return { sensorError, offset, lag, total: sensorError + offset + lag };
}

/** Resume and cutoff lie at least so far apart, °C. */
export const leastHysteresisC = 2;

/** Hysteresis of the resume temperature, °C: at least 2, or sensor error plus the lead of the sensor on warming. */
export const resumeHysteresis = (sensor: Sensor): number => Math.max(leastHysteresisC, sensor.errorC + sensor.warmLeadC);

/** Whether this charger's sensor tells it the temperature of the battery at all. */
export const readsBattery = (charger: Charger, card: Card): boolean =>
  card.sensor.reads !== 'none' &&
  card.sensor.reads !== 'ownCase' &&
  charger.sensor.fitted === true &&
  charger.sensor.place !== 'air' &&
  charger.sensor.place !== 'chargerCase';

/** Whether this charger charges nothing as it stands: it stops without a sensor while its cutoff is set, and it has none. */
export const stopsWithoutSensor = (charger: Charger, card: Card): boolean =>
  card.sensor.withoutSensor === 'stopsCharging' && card.sensor.usedFor.includes('cutoff') && !charger.sensor.fitted;
