import { fromDevice, parameterFor, type Card, type DeviceValues } from '../card';
import { cardOf, companionInPlace, type Plan } from '../settings';
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

/** A number on a companion or charger as it stands there, in the core's unit. */
function valueOn(plan: Plan, card: Card, on: DeviceValues | undefined, role: Parameters<typeof parameterFor>[1]): number | null {
  const parameter = parameterFor(card, role);
  const value = on?.[role];
  if (!parameter || parameter.unit === 'choice' || typeof value !== 'number' || !Number.isFinite(value)) return null;
  return fromDevice(parameter, value, {
    systemVolts: plan.facts.systemVolts ?? plan.facts.nominalVolts,
    cellsInSeries: plan.facts.cells,
    ratingA: card.ratings.outputA,
    floatVolts: 0,
  });
}

const wordOn = (card: Card, on: DeviceValues | undefined, role: Parameters<typeof parameterFor>[1]): string | null => {
  const parameter = parameterFor(card, role);
  return parameter?.unit === 'choice' ? (parameter.options.find((o) => o.value === on?.[role])?.means ?? null) : null;
};

/** What switches the loads: a monitor's relay, or a charger's load output. */
export function loadRelayOf(plan: Plan, values: AllValues): { id: string; disconnectV: number; reconnectV: number; keepsA: number } | null {
  const places = [...plan.input.system.companions.filter((c) => c.switches.includes('loads')).map(companionInPlace), ...plan.input.system.chargers];
  for (const place of places) {
    const card = cardOf(plan.input, place);
    if (!card) continue;
    const disconnectV = valueOn(plan, card, values[place.id], 'loadDisconnect');
    const reconnectV = valueOn(plan, card, values[place.id], 'loadReconnect');
    const mode = wordOn(card, values[place.id], 'loadMode');
    if (disconnectV !== null && reconnectV !== null && mode !== 'off') return { id: place.id, disconnectV, reconnectV, keepsA: 0 };
  }
  return null;
}

/** What a monitor takes for full. */
export function monitorOf(plan: Plan, values: AllValues) {
  for (const companion of plan.input.system.companions) {
    const card = cardOf(plan.input, companionInPlace(companion));
    if (card?.kind !== 'monitor') continue;
    const read = (role: Parameters<typeof parameterFor>[1]): number | null => valueOn(plan, card, values[companion.id], role);
    const fullV = read('fullDetectVoltage');
    const fullA = read('fullDetectCurrent');
    if (fullV === null || fullA === null) continue;
    return {
      id: companion.id,
      fullV,
      fullA,
      fullS: read('fullDetectTime') ?? 180,
      efficiency: (read('chargeEfficiency') ?? 100) / 100,
      capacityAh: Math.max(1, read('capacity') ?? plan.facts.capacityAh),
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
    const setpoint = valueOn(plan, card, values[companion.id], 'thermostatSetpoint');
    const differential = valueOn(plan, card, values[companion.id], 'thermostatDifferential') ?? 1;
    if (setpoint === null) return [];
    const cooling = values[companion.id]?.outputMode === 'cooling';
    return [
      {
        id: companion.id,
        switches: companion.switches,
        offsetC: place.sensor.offsetC,
        lagSeconds: place.sensor.lagSeconds,
        delayS: valueOn(plan, card, values[companion.id], 'thermostatDelay') ?? 0,
        closedAt: (celsius: number, closed: boolean): boolean => {
          const warm = celsius >= setpoint;
          const cold = celsius <= setpoint - differential;
          return cooling ? (warm ? true : cold ? false : closed) : cold ? true : warm ? false : closed;
        },
      },
    ];
  });
}
