import type { Role } from '../../card';
import type { Hand } from '../../practice';
import { lower } from '../../quantity';
import type { BenchSay, FaultWords, PracticeWords } from '../practice';
import { listed } from './join';

const neverFull = 'It never gets full.';
const sulphates = 'A lead bank that is never full sulphates and loses capacity.';
const undercharged = 'The bank ends each day undercharged.';
const read = 'Read the value on its display and compare it with the settings worked out from the sheet.';
const enter = 'Enter the value worked out from the sheet, save it, and read it back.';

const value = (name: string, complaint: string, does: string, shows = read, cure = enter): FaultWords => ({
  cause: (on) => `${name} on ${on}`,
  complaint,
  does,
  shows,
  cure,
});
const work = (cause: (on: string) => string, complaint: string, does: string, shows: string, cure: string): FaultWords => ({
  cause,
  complaint,
  does,
  shows,
  cure,
});

const faults: PracticeWords['faults'] = {
  absorbHigh: value(
    'Absorb set too high',
    'On sunny days it smells of acid, or the battery cuts out at noon.',
    'Above its band, lead gasses and dries out and a lithium BMS trips.',
  ),
  absorbLow: { ...value('Absorb set too low', neverFull, `${undercharged} ${sulphates}`), besideOthers: 'It takes longer to fill than it used to.' },
  floatHigh: value('Float set too high', 'The batteries are warm every evening.', 'Held too high for days, lead dries out and lithium ages at full charge.'),
  floatLow: value(
    'Float set too low',
    'It is full at noon and half empty by evening, with the sun still shining.',
    'The charger rests while the loads draw from the bank.',
  ),
  rechargeLow: value(
    'Recharge set too low',
    'After two dull days it is nearly flat before the charger starts again.',
    'The bank is cycled far deeper than planned before a new charge begins.',
  ),
  absorbTimeShort: {
    ...value('Absorb time too short', `${neverFull} The charger says it is done early each day.`, `Absorb ends before the current has fallen. ${sulphates}`),
    besideOthers: 'One charger says it is done early each day.',
  },
  absorbTimeLong: value('Absorb time too long', 'The charger holds its top voltage all afternoon.', 'Long hours at absorb dry out lead and age lithium.'),
  slopeOnLithium: value(
    'Temperature compensation set on lithium',
    'On cold mornings the battery cuts out just before it is full.',
    'Cold raises the voltage past the limit of the cells; heat leaves them undercharged.',
  ),
  slopeNone: value(
    'No temperature compensation',
    'Good in spring, gassing in summer, never full in winter.',
    'The same voltage is too high for a warm lead bank and too low for a cold one.',
  ),
  slopeTwice: value(
    'Temperature compensation twice as steep as the sheet says',
    'It overcharges in winter and never gets full in summer.',
    'Each degree moves the voltage twice as far as the maker allows.',
    'Compare the slope on its display with the sheet. Check the basis: for a cell, for 12 V, or for the bank.',
  ),
  cutoffLow: value(
    'Low-temperature cutoff too low',
    'Nobody noticed anything. Winter is coming.',
    'Charging frozen lithium cells damages them for good and can make them dangerous.',
  ),
  taperHigh: {
    ...value('Taper current too high', `${neverFull} Absorb lasts a few minutes.`, `Absorb ends while the bank still takes current. ${undercharged}`),
    besideOthers: 'On one charger absorb lasts a few minutes.',
  },
  taperBelowLoads: value(
    'Taper current below what the loads draw',
    'The charger stays in absorb until dark.',
    'The charger sees its own output. With the loads on it never falls to the taper current.',
    'Compare the taper current with the least load: a clamp on the loads, and the value on its display.',
  ),
  limitLow: value('Current limit too low', 'In full sun it brings a fifth of what it should.', undercharged),
  limitHigh: value(
    'Current limit above what the bank may take',
    'The battery cuts out or gets warm on clear mornings.',
    'Current past the maker’s limit heats cells, cables and fuses.',
  ),
  fullHigh: value(
    'Full-charge voltage of the monitor above absorb',
    'The monitor has not shown 100 % for weeks.',
    'It never sees a full charge, so its count drifts and its alarms mean nothing.',
  ),
  capacityTwice: value('Capacity entered twice over', 'The monitor shows 60 % and the lights go out.', 'It counts twice the charge that is there.'),
  disconnectLow: value(
    'Load disconnect too low',
    'The loads run until the battery is dead.',
    'Each deep discharge takes years from a lead bank; a lithium BMS opens and everything is dark.',
  ),
  inputStopLow: value('Input stop too low', 'The engine would not start after a night at anchor.', 'The DC-DC charger goes on drawing from the start battery.'),
  reconnectClose: value(
    'Load reconnect too close to disconnect',
    'The lights flicker on and off in the evening.',
    'The bank rises a little when the load is off, reconnects, and falls again.',
  ),
  alarmLow: value(
    'High-voltage alarm below absorb',
    'The alarm goes off each time it is nearly full, and charging stops.',
    'The alarm ends every charge before absorb is done.',
  ),
  equaliseOn: value(
    'Equalise switched on',
    'Now and then the voltage goes far above absorb.',
    'The maker does not permit it: sealed lead vents, lithium is damaged.',
  ),
  typeChosen: value(
    'A ready-made battery type instead of own figures',
    'Somebody “put it on the right battery type”. Since then nothing is as it was.',
    'The type overwrites the levels with the charger maker’s own guess.',
    'Read the battery type. Then read the levels: they moved with it.',
    'Choose own figures, then enter every level again, save, and read back.',
  ),
  followsNobody: value(
    'The follower charges by itself',
    'The two chargers are never in the same stage.',
    'One is done and rests while the other still charges.',
    'Read the role of each charger.',
    'Set its role to follower, save, and read it back.',
  ),
  wrongScale: value(
    'Setpoint entered in °C on a device that counts in °F',
    'The thermostat does nothing until it is far below freezing.',
    'A setpoint of 8 °F is −13 °C: the bank is charged frozen.',
    'Read the setpoint with its unit.',
  ),
  sistersApart: value(
    'Absorb lower than on its sister',
    'One charger is in float while the other works alone.',
    'The lower one ends first. The bank is filled at half the current.',
    'Read absorb on both chargers.',
  ),
  notSaved: value(
    'A value in use that was never saved',
    'It works well until somebody takes the fuse out.',
    'The next power cut brings back the old value.',
    'Isolate the source, cut its power, and read again.',
    'Enter the value, save it in the way of the device, cut the power, and read it back.',
  ),
  sensorUnplugged: work(
    (on) => `Temperature sensor of ${on} unplugged`,
    'It charges as if it were always 25 °C, or not at all.',
    'Without its sensor there is no compensation, and on many chargers no low-temperature cutoff.',
    'Its display shows no temperature. A look at the sensor shows the loose plug.',
    'Plug the sensor in.',
  ),
  sensorOnPad: work(
    (on) => `Temperature sensor of ${on} on a warm pad`,
    'On frosty mornings it charges a frozen battery.',
    'The sensor reads warmer than the cells, so the cutoff acts too late.',
    'Compare its temperature with a thermometer on the battery.',
    'Move the sensor to the battery case.',
  ),
  sensorInCase: work(
    (on) => `Temperature sensor of ${on} lies in the charger’s case`,
    'The voltage falls while it works hard and rises when it rests.',
    'It measures the charger’s own heat.',
    'Compare its temperature with a thermometer on the battery.',
    'Move the sensor to the battery case.',
  ),
  badJoint: work(
    (on) => `A bad joint in the cable of ${on}`,
    'The charger shows absorb while the battery is far below.',
    'Volts are lost in the joint. It gets hot and can start a fire.',
    'Measure from the charger’s plus to the bus while current flows, or look at the joints.',
    'Isolate, remake the joint, tighten it to the maker’s torque.',
  ),
  snow: work(() => 'Snow on the array', 'It hardly charges on a bright day.', undercharged, 'Look at the array.', 'Clear the array, from a safe place.'),
  stringOpen: work(
    (on) => `One string of the array on ${on} is open`,
    'It brings half of what it brought.',
    undercharged,
    'Clamp each string: one carries nothing in the sun.',
    'Join the string again: isolated, and in the dark or covered.',
  ),
  sourceOff: work(
    (on) => `Array isolator of ${on} is open`,
    'One charger does nothing.',
    undercharged,
    'Clamp its output, and look at its isolator.',
    'Close the isolator.',
  ),
  besideShunt: work(
    (on) => `Negative of ${on} goes to the bank beside the shunt`,
    'The monitor falls all day in full sun.',
    'The monitor does not count that charger, so its state of charge is wrong.',
    'Compare the monitor’s current with a clamp on the bank.',
    'Move the negative to the load side of the shunt.',
  ),
  shuntReversed: work(
    () => 'The two thin leads of the shunt are swapped',
    'The monitor counts down while the sun charges, and up at night.',
    'It counts charge as discharge: its state of charge and its alarms are wrong.',
    'Compare sign and size of the monitor’s current with a clamp on the bank, or follow the thin leads to the shunt.',
    'Swap the two thin leads on the shunt.',
  ),
  relayWrongSide: work(
    (on) => `The relay of ${on} parts the battery from the charger, not the array`,
    'On the first frosty morning the charger went dead in full sun.',
    'A charger that loses its battery in the sun can lift its output to the array’s voltage and destroy itself and the loads.',
    'Follow the wires of the relay.',
    'Isolate the array, then the battery, and move the relay to the array side.',
  ),
  loadLeftOn: work(
    () => 'A load was left on',
    'The bank is empty every morning.',
    'It takes what the chargers bring.',
    'Clamp the loads and compare with what was planned.',
    'Switch the load off.',
  ),
  cellAhead: work(
    () => 'One cell runs ahead of the others',
    'The battery cuts out just before it is full.',
    'The highest cell trips the BMS while the others are not full.',
    'Read the cell voltages near the end of absorb.',
    'Balance the cells in the way of their maker.',
  ),
  displayHigh: {
    ...work(
      (on) => `Display of ${on} reads too high`,
      `${neverFull} The display says absorb was reached.`,
      'The charger believes its display and stops too low.',
      'Measure at its battery terminals while you read its display.',
      'Compare the display with the meter, then enter the value corrected for the difference.',
    ),
    besideOthers: 'One charger says absorb is reached and leaves the work to the others.',
  },
  olderSheet: work(
    () => 'The sheet on the wall is an older revision',
    'The batteries were renewed last year. Nobody changed anything else.',
    'Every value follows a sheet that is not valid for these batteries.',
    'Look at the label of the battery and compare the revision.',
    'Enter every value from the newer sheet, save, and read back.',
  ),
  cloud: work(
    () => 'Nothing is wrong: broken cloud',
    'Absorb starts, stops, and starts again all day.',
    'Each bright gap lifts the voltage to absorb for a moment.',
    'Look at the sky, or read yesterday’s log.',
    'Change nothing.',
  ),
};

const hands: PracticeWords['hands'] = {
  clearArray: { does: () => 'Clear the array', caution: 'Not from a wet roof, and not alone.' },
  plugSensor: { does: (on) => `Plug in the sensor of ${on}` },
  moveSensor: { does: (on) => `Move the sensor of ${on} to the battery case` },
  remakeJoint: { does: (on) => `Remake the joints of ${on}`, caution: 'Source and battery side isolated first. Follow the maker’s torque.' },
  closeIsolator: { does: (on) => `Close the isolator of ${on}` },
  moveNegative: { does: (on) => `Move the negative of ${on} to the shunt’s load side`, caution: 'Bank isolated first.' },
  swapShuntLeads: { does: () => 'Swap the two thin leads on the shunt', caution: 'They are fused and live: isolate the bank first.' },
  moveRelay: {
    does: (on) => `Move the relay of ${on} to the array side`,
    caution: 'Array isolated first, then the battery. Its contact must be rated to break the array’s DC.',
  },
  switchOffLoad: { does: () => 'Switch off what was left on' },
  joinString: { does: (on) => `Join the strings of ${on} again`, caution: 'Never part or join a string under load: the arc does not go out.' },
  balanceCells: { does: () => 'Balance the cells', caution: 'Only in the way of their maker.' },
  replaceBattery: { does: () => 'Replace a battery' },
  replaceCharger: { does: (on) => `Replace ${on}` },
};

const sights: PracticeWords['sights'] = {
  fine: 'nothing unusual',
  unplugged: 'its plug hangs loose',
  onPad: 'it lies on a heating pad',
  inCase: 'it lies inside the charger’s case',
  onBattery: 'it is fixed to the battery case',
  burnt: 'one lug is dark and its heat shrink has melted',
  snow: 'covered with snow',
  clear: 'clear',
  cloud: 'broken cloud, bright gaps',
  open: 'open',
  closed: 'closed',
  besideShunt: 'it goes to the bank beside the shunt',
  throughShunt: 'it goes through the shunt',
  leadsSwapped: 'the two thin leads are on each other’s screws',
  leadsRight: 'each thin lead is on its own screw',
  partsBattery: 'its contact is between the charger and the battery',
  partsSource: 'its contact is between the source and the charger',
  loadLeftOn: 'a heater is on that nobody uses',
  loadsUsual: 'only what was planned',
  cells: '',
  sameSheet: 'the same revision as the sheet on the wall',
  otherSheet: 'it names a newer revision than the sheet on the wall',
  none: 'there is none',
};

const things: Readonly<Record<string, string>> = { array: 'Array', sky: 'Sky', loads: 'Loads', cells: 'Cells', label: 'Label of the battery' };
const parts: Readonly<Record<string, string>> = {
  sensor: 'Sensor',
  joints: 'Joints',
  isolator: 'Isolator',
  negative: 'Negative',
  shunt: 'Shunt',
  relay: 'Relay',
};
const thing = (key: string, say: BenchSay): string => {
  const [what = '', device] = key.split(':');
  return device === undefined ? (things[what] ?? what) : `${parts[what] ?? what} of ${say.name(device)}`;
};
/** A probe as somebody would say where it is. */
function probe(where: string, say: BenchSay): string {
  const sign = where.endsWith('+') ? '+' : '−';
  const place = where.slice(0, -1);
  if (place === 'bank') return `bank ${sign}`;
  if (place === 'bus') return `bus ${sign}`;
  const [side, device = ''] = place.split(':');
  return `${say.name(device)}, ${side === 'in' ? 'array' : 'battery'} ${sign}`;
}

const clamped = (at: string, say: BenchSay): string => (at === 'bank' ? 'bank' : at === 'loads' ? 'loads' : say.name(at));

const on = (device: string | null, say: BenchSay): string => (device === null ? '' : say.name(device));

/** The practice bench, in English. */
export const practiceEnglish: PracticeWords = {
  places: {
    cabin: { name: 'The cabin', story: 'A cabin with 24 V of LFP, two solar chargers of one kind, and a monitor.' },
    mast: { name: 'The mast hut', story: 'A mast hut with 12 V of vented lead and one PWM charger that also switches the loads.' },
    pump: { name: 'The pump house', story: 'A pump house with 12 V of gel, one solar charger, and a monitor.' },
    launch: { name: 'The launch', story: 'A launch with 24 V of LFP: solar, a DC-DC charger, an alternator, a monitor. The engine runs in the morning.' },
    hut: { name: 'The relay hut', story: 'A relay hut with 24 V of AGM: two solar chargers, one following the other, and a stream turbine.' },
    stage: { name: 'The stage trailer', story: 'A trailer with a 14-cell NMC pack: a roof, an inverter-charger on the mains, a thermostat with its relay.' },
  },
  faults,
  complaint: (code, sources) => (sources > 1 ? faults[code].besideOthers : undefined) ?? faults[code].complaint,
  choice: ({ code, device }, say) => faults[code].cause(on(device, say)),
  hands,
  sights,
  probe,
  done(done, say) {
    const [what = '', id = ''] = done.key.split(':');
    const volts = done.number === null ? '' : say.volts(done.number);
    const amps = done.number === null ? '' : say.amps(done.number);
    const celsius = done.number === null || Number.isNaN(done.number) ? 'no temperature' : say.celsius(done.number);
    switch (what) {
      case 'value':
        return `${say.name(id)}: ${done.role === null ? '' : say.label(id, done.role)} ${done.text ?? ''}`;
      case 'display':
        return done.unit === 'V'
          ? `${say.name(id)} shows ${volts}, ${say.amps(done.beside ?? 0)}${done.stage === null ? '' : `, ${say.stage(done.stage)}`}`
          : `${say.name(id)} shows ${celsius}`;
      case 'sensor':
        return `${say.name(id)} shows ${celsius} for the battery`;
      case 'monitor':
        return `Monitor shows ${amps}, ${say.volts(done.beside ?? 0)}`;
      case 'meter':
      case 'drop':
      case 'input': {
        const [red = '', black = ''] = (done.text ?? '').split(' ');
        return `Meter, ${probe(red, say)} to ${probe(black, say)}: ${volts}`;
      }
      case 'clamp':
        return `Clamp, ${clamped(id, say)}: ${amps}`;
      case 'strings':
        return `Strings of ${say.name(id)}: ${amps} in the lowest, ${say.amps(done.beside ?? 0)} in the highest`;
      case 'dark':
        return `Strings of ${say.name(id)}: too little sun to tell`;
      case 'thermometer':
        return `Thermometer, ${id === 'air' ? 'air' : 'battery'}: ${celsius}`;
      case 'ice':
        return `Sensor of ${say.name(id)} in ice water for 15 min: ${celsius}`;
      case 'look': {
        const key = done.key.slice('look:'.length);
        return done.sight === 'cells'
          ? `Cells: the highest is ${volts} above the mean`
          : `${thing(key, say)}: ${done.sight === null ? '' : sights[done.sight]}`;
      }
      case 'log':
        return 'Yesterday’s log read';
      case 'cut':
        return `Power of ${say.name(id)} cut and restored`;
      default:
        return done.key;
    }
  },
  hint: (hint, say) =>
    hint.tells === 'where'
      ? hint.device === null
        ? 'It is not on one charger. Look at the place as a whole.'
        : `Look at ${say.name(hint.device)}.`
      : `${listed(hint.keys.map((key, i) => (i === 0 ? practiceEnglish.toGet(key, say) : lower(practiceEnglish.toGet(key, say)))))}.`,
  toGet(key, say) {
    const [what = '', id = '', role = ''] = key.split(':');
    switch (what) {
      case 'value':
        return `Read ${say.label(id, role as Role)} on ${say.name(id)}`;
      case 'display':
        return `Write down what ${say.name(id)} shows`;
      case 'sensor':
        return `Write down the temperature that ${say.name(id)} shows`;
      case 'monitor':
        return 'Write down what the monitor shows';
      case 'meter':
        return id === 'bank' ? 'Measure volts at the bank' : `Measure volts at the battery terminals of ${say.name(id)}`;
      case 'drop':
        return `Measure from the plus of ${say.name(id)} to the bus while current flows`;
      case 'clamp':
        return `Clamp the ${id === 'bank' || id === 'loads' ? id : `output of ${say.name(id)}`}`;
      case 'strings':
        return `Clamp the strings of ${say.name(id)} in the sun`;
      case 'thermometer':
        return 'Hold the thermometer to the battery';
      case 'ice':
        return `Put the sensor of ${say.name(id)} into ice water`;
      case 'look':
        return `Look at the ${lower(thing(key.slice('look:'.length), say))}`;
      case 'log':
        return 'Read yesterday’s log';
      case 'cut':
        return `Cut the power of ${say.name(id)} with its source off`;
      default:
        return key;
    }
  },
  note(note, label) {
    switch (note.code) {
      case 'stored':
        return 'Saved.';
      case 'inUse':
        return 'In use, and not saved yet.';
      case 'thrownAway':
        return 'Left alone too long or left by the wrong way: the edit was discarded.';
      case 'wentHome':
        return 'Left alone, it went back to its home screen.';
      case 'end':
        return 'The list ends here.';
      case 'powerBack':
        return 'Power is back. What was not saved is gone.';
      case 'factory':
        return 'Factory values restored. Everything entered before is gone.';
      case 'nothing':
        return 'This key does nothing here.';
      case 'refused':
        return `Not accepted: a rule between ${label(note.rule.parameter)} and ${label(note.rule.other)} forbids it. Set the other one first.`;
      case 'locked':
        return `Shown only at ${note.access} level.`;
      case 'hidden':
        return `Shown only ${note.when}.`;
      case 'second':
        return `${note.key} has a second meaning here, and it acted.`;
    }
  },
  danger: ({ code, device }, say) =>
    code === 'cutUnderSun'
      ? `${say.name(device)} lost the battery while its source was on. That can destroy it: isolate the source first.`
      : code === 'secondMeaning'
        ? `A key of ${say.name(device)} did something else than meant. Read what its keys do before pressing.`
        : `${say.name(device)} was reset to factory values.`,
  left: ({ device, role, value: now, right, unsaved }, say) => {
    const was = now === undefined ? 'is not set' : `is ${say.shown(device, role, now)}`;
    const should = right === null ? '' : `, and should be ${say.shown(device, role, right)}`;
    return unsaved
      ? `${say.name(device)}: ${say.label(device, role)} is in use and was not saved. After a power cut it ${was}.`
      : `${say.name(device)}: ${say.label(device, role)} ${was}${should}.`;
  },
  wrong: (claim, say) => `Not so: ${lower(faults[claim.code].cause(on(claim.device, say)))}.`,
  followed: (claim, say) => `True, but it follows from something else: ${lower(faults[claim.code].cause(on(claim.device, say)))}.`,
  needless: (hand: Hand, device, say) => `Nothing called for this: ${lower(hands[hand].does(on(device, say)))}.`,
  verdict({ passed, faults: found, left, wrong, needless, hazards }, kind) {
    if (passed) return kind === 'program' ? 'Programmed as the sheet says.' : 'Found, shown and put right.';
    if (hazards.length > 0) return 'Not done: something dangerous happened on the way.';
    if (kind === 'program') return left.length === 1 ? 'Not done: one value is wrong.' : `Not done: ${left.length} values are wrong.`;
    if (found.some((f) => !f.named)) return found.length > 1 && found.some((f) => f.named) ? 'Part of it was found.' : 'Not found.';
    if (wrong.length > 0) return 'Found, with something said that is not so.';
    if (found.some((f) => f.shown === false)) return 'Named, and not shown: what you pointed at does not show it.';
    if (found.some((f) => !f.cured)) return 'Found, and not put right.';
    if (left.length > 0) return 'Found, and something else is wrong now.';
    return needless.length > 0 ? 'Found, with work that nothing called for.' : 'Not done.';
  },
};
