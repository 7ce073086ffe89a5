import type { VisitWords } from '../visit';

/** The plan of a visit in English. */
export const visitEnglish: VisitWords = {
  parts: {
    arrive: 'When you arrive',
    fill: 'While the bank fills',
    absorb: 'At absorb',
    full: 'With the bank full',
    leave: 'Before you leave',
  },
  questions: { sun: 'Sun', engine: 'Engine', turbine: 'Turbine', mains: 'Mains', bank: 'Bank', batteryC: 'Battery itself', hours: 'Time on site' },
  sun: { full: 'full', some: 'under cloud', none: 'none' },
  bank: { low: 'nearly empty', between: 'in between', full: 'full' },
  there: {
    engine: { yes: 'can run', no: 'not today' },
    turbine: { yes: 'turns', no: 'not today' },
    mains: { yes: 'there', no: 'not today' },
  },
  tools: {
    multimeter: 'multimeter',
    clampMeter: 'DC clamp meter',
    thermometer: 'thermometer',
    coldBath: 'cup, crushed ice and salt',
    coldPack: 'cold pack and cloth',
    watch: 'watch',
    load: 'a load of about 0.1 C',
    supply: 'an adjustable supply',
    settingsSheet: 'the settings sheet',
  },
  reason: (reason, say) => {
    switch (reason.code) {
      case 'noSource':
        return { sun: 'needs sun', engine: 'needs the engine', turbine: 'needs the turbine turning', mains: 'needs mains' }[reason.drive];
      case 'fullSun':
        return 'needs full sun';
      case 'bankTooFull':
        return 'needs the bank lower';
      case 'bankStaysLow':
        return 'the bank does not reach absorb without a source at full power';
      case 'batteryCold':
        return `needs the battery at ${say.celsius(reason.warmC)} or more`;
      case 'noTime':
        return 'no time left';
    }
  },
  ask: (question, tests) => {
    const what = {
      sun: 'Say what the sun does',
      engine: 'Say whether the engine can run',
      turbine: 'Say whether the turbine turns',
      mains: 'Say whether mains is there',
      bank: 'Say how full the bank is',
      batteryC: 'Measure the battery itself',
    }[question];
    return `${what}: ${tests === 1 ? 'one test depends' : `${tests} tests depend`} on it.`;
  },
};
