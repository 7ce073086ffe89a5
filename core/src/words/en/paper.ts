import type { PaperWords } from '../paper';

/** The reading of papers, in English. */
export const paperEnglish: PaperWords = {
  doubts: {
    weakName: 'The name alone does not say which figure this is.',
    unitAssumed: 'No unit is printed.',
    basisAssumed: 'The paper does not say what it is counted for.',
    implausible: 'It is outside the normal range of this chemistry.',
    condition: 'It holds at another temperature than 20 to 25 °C.',
    note: 'A footnote belongs to it. Read the footnote first.',
    tolerance: 'Its tolerance is printed in percent; the band is worked out.',
    unequal: 'It is printed on two bases, and the two differ.',
    unclear: 'It was read from a picture, and not clearly. Compare each digit and the point.',
    rival: 'The paper gives another value for the same figure.',
  },
  pasted: (problem, name) => {
    switch (problem.code) {
      case 'twice':
        return `${name} is already on line ${problem.line}. Choose one of them.`;
      case 'foreign':
        return 'This is a setting of a charge controller, not a figure of a battery. Leave it out.';
      case 'unknown':
        return 'This name is not a figure of a sheet. Choose one, or leave the line out.';
      case 'silent':
        return 'No figure is found on this line.';
      case 'unreadable':
        return `“${problem.value.slice(0, 40)}” cannot be read as ${name.toLowerCase()}. Enter it by hand.`;
    }
  },
  faults: {
    locked: 'This PDF is locked with a password. Save a copy without one, or print it to a new PDF, and attach that.',
    broken: 'This document cannot be read. Download it again, or print it to a new PDF, and attach that.',
    empty: 'This document has no pages. Download it again.',
    stopped: 'Reading was stopped. Nothing was taken. Open the paper again to read it.',
    lost: 'The document is not on this device. Bring in the job file that holds it, or attach it again.',
    noText: 'No letters can be read on this paper. Take the picture closer and straight, or type its figures on Spec.',
    noReader: 'The picture could not be read on this device. Reload the page and open it again, or type its figures on Spec.',
    noFigure: 'No figure was found on this paper. Type its figures on Spec, or paste the lines that have them.',
  },
  leftOut: {
    foreign: 'a setting of a charge controller, no figure of a battery',
    unreadable: 'its value cannot be read',
    unknown: 'its name is not known',
  },
};
