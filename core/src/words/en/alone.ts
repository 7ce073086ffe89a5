import type { AloneWords } from '../alone';

const sensorOpen = 'Nobody has said which sensor wrote it.';

/** What a log shows by itself, in English. */
export const aloneEnglish: AloneWords = {
  fact: (fact, say) => {
    switch (fact.code) {
      case 'highestVolts':
        return { title: 'Highest bank voltage', value: say.volts(fact.seen.value) };
      case 'lowestVolts':
        return { title: 'Lowest bank voltage', value: say.volts(fact.seen.value) };
      case 'stayedHigh':
      case 'stayedBelow': {
        const { amps, days, lowV, highV } = fact;
        const over = days > 1 ? ` on ${days} days` : '';
        const whose = amps?.of === 'chargers' ? 'from the chargers' : 'into the bank';
        const current = amps ? ` In the longest stretch the current ${whose} went from ${say.amps(amps.first, 1)} to ${say.amps(amps.last, 1)}.` : '';
        return {
          title: fact.code === 'stayedHigh' ? 'Highest level at which the voltage stayed' : 'Level below that with the most time',
          value: highV - lowV < 2 * fact.withinV ? say.volts((lowV + highV) / 2) : say.voltsBand({ min: lowV, max: highV }),
          more: `Within ${say.volts(fact.withinV)} for ${say.duration(fact.seconds)}${over}.${current}`,
        };
      }
      case 'mostAmps':
        return { title: `Most current of ${say.name(fact.charger)}`, value: say.amps(fact.seen.value, 1) };
      case 'chargedCold':
      case 'chargedHot':
        return {
          title: `${fact.code === 'chargedCold' ? 'Coldest' : 'Warmest'} battery while it was charged`,
          value: say.celsius(fact.seen.value),
          ...(fact.sensorKnown ? {} : { more: sensorOpen }),
        };
      case 'noCharge':
        return {
          title: 'Battery temperature',
          value: `${say.celsius(fact.coldest.value)} to ${say.celsius(fact.warmest.value)}`,
          more: `No charge is seen in this log.${fact.sensorKnown ? '' : ` ${sensorOpen}`}`,
        };
      case 'counted': {
        const missing = fact.unknownSeconds > 0 ? `Not known for ${say.duration(fact.unknownSeconds)}.` : '';
        const reversed = fact.reversed ? 'Its sign looks reversed: in and out may be the other way round.' : '';
        const more = [missing, reversed].filter(Boolean).join(' ');
        return { title: 'Charge in and out', value: `${say.ampHours(fact.inAh)} in, ${say.ampHours(fact.outAh)} out`, ...(more === '' ? {} : { more }) };
      }
      case 'charge':
        return { title: 'State of charge as it was written', value: `${say.percent(fact.least.value)} to ${say.percent(fact.most.value)}` };
    }
  },
};
