import { meansOf, parameterFor, type Role } from '../card';
import { cardOf, companionInPlace, devicesOf, feedsLoads, trueOf, type Plan } from '../settings';
import { figureOnBank, overVoltageTrip, statedFigure } from '../sheet';
import type { AllValues } from './values';

/** Trips of a BMS at the bank, from the sheet. */
export interface Bms {
  readonly highV: number;
  readonly cellV: number;
  readonly releaseV: number;
  readonly lowV: number;
  readonly amps: number;
  readonly coldC: number | null;
}

/** The trips of a plan’s BMS. */
export function bmsOf(plan: Plan): Bms {
  const { sheet } = plan.input;
  const { shape } = plan.facts;
  const bankFigure = (key: 'bmsRelease' | 'bmsUnderVoltage' | 'bmsOverCurrent'): number | undefined => {
    const figure = statedFigure(sheet, key);
    const scaled = figure && figureOnBank(figure, shape);
    return scaled?.target ?? scaled?.band.max ?? scaled?.band.min;
  };
  const cell = statedFigure(sheet, 'bmsCellOverVoltage');
  const cold = statedFigure(sheet, 'bmsLowTemperature');
  const highV = overVoltageTrip(sheet, shape) ?? Infinity;
  const cellV = cell?.max ?? cell?.target ?? Infinity;
  return {
    highV,
    cellV,
    // Where the sheet is silent a BMS lets go about 0.1 V per cell lower.
    releaseV: bankFigure('bmsRelease') ?? Math.min(highV, cellV * plan.facts.cells) - 0.1 * plan.facts.cells,
    lowV: bankFigure('bmsUnderVoltage') ?? -Infinity,
    amps: bankFigure('bmsOverCurrent') ?? Infinity,
    coldC: cold ? (cold.min ?? cold.target ?? cold.max ?? null) : null,
  };
}

/** A number as it stands on a device, in the core's unit; null where there is none. */
function valueOn(plan: Plan, values: AllValues, id: string, role: Role): number | null {
  const value = values[id]?.[role];
  return typeof value === 'number' && Number.isFinite(value) ? trueOf(plan, id, role, value) : null;
}

/** What switches the loads: a monitor's relay, or a charger's load output. */
export function loadRelayOf(plan: Plan, values: AllValues): { id: string; disconnectV: number; reconnectV: number } | null {
  for (const place of devicesOf(plan.input)) {
    const card = cardOf(plan.input, place);
    if (!card || !feedsLoads({ charger: place, input: plan.input })) continue;
    const disconnectV = valueOn(plan, values, place.id, 'loadDisconnect');
    const reconnectV = valueOn(plan, values, place.id, 'loadReconnect');
    const mode = meansOf(parameterFor(card, 'loadMode'), values[place.id]?.loadMode);
    if (disconnectV !== null && reconnectV !== null && mode !== 'off') return { id: place.id, disconnectV, reconnectV };
  }
  return null;
}

/** What a monitor takes for full. */
export function monitorOf(plan: Plan, values: AllValues) {
  for (const companion of plan.input.system.companions) {
    const card = cardOf(plan.input, companionInPlace(companion));
    if (card?.kind !== 'monitor') continue;
    const read = (role: Role): number | null => valueOn(plan, values, companion.id, role);
    const fullV = read('fullDetectVoltage');
    const fullA = read('fullDetectCurrent');
    if (fullV === null || fullA === null) continue;
    return {
      id: companion.id,
      fullV,
      fullA,
      fullS: read('fullDetectTime') ?? 180,
      efficiency: (read('chargeEfficiency') ?? 100) / 100,
      capacityAh: Math.max(1, read('capacity') ?? plan.facts.capacityAh ?? 1),
    };
  }
  return null;
}

/** Thermostats with the sources they switch. A cooling output is closed when warm; a heating one when cold. */
export function thermostatsOf(plan: Plan, values: AllValues) {
  return plan.input.system.companions.flatMap((companion) => {
    const place = companionInPlace(companion);
    const card = cardOf(plan.input, place);
    if (card?.kind !== 'thermostat' || !place.sensor.fitted) return [];
    const setpoint = valueOn(plan, values, companion.id, 'thermostatSetpoint');
    const differential = valueOn(plan, values, companion.id, 'thermostatDifferential') ?? 1;
    if (setpoint === null) return [];
    const cooling = values[companion.id]?.outputMode === 'cooling';
    return [
      {
        id: companion.id,
        switches: companion.switches,
        offsetC: place.sensor.offsetC,
        lagSeconds: place.sensor.lagSeconds,
        delayS: valueOn(plan, values, companion.id, 'thermostatDelay') ?? 0,
        closedAt: (celsius: number, closed: boolean): boolean => {
          const warm = celsius >= setpoint;
          const cold = celsius <= setpoint - differential;
          return cooling ? (warm ? true : cold ? false : closed) : cold ? true : warm ? false : closed;
        },
      },
    ];
  });
}
