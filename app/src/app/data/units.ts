import { computed, Injectable, signal } from '@angular/core';
import {
  celsiusToFahrenheit,
  formatNumber,
  formatTemperature,
  formatTemperatureDifference,
  speak,
  type Sentence,
  type TemperatureScale,
} from '@calm-keel/core/quantity';
import { heldText, holdText } from './small-store';

const key = 'calm-keel.temperature';

/** The person's choice of temperature scale, kept on this device and followed by other tabs. Files stay in °C. */
@Injectable({ providedIn: 'root' })
export class Units {
  readonly scale = signal<TemperatureScale>(read());
  readonly label = computed(() => (this.scale() === 'C' ? '°C' : '°F'));

  constructor() {
    window.addEventListener('storage', (event) => {
      if (event.key === key) this.scale.set(read());
    });
  }

  choose(scale: TemperatureScale): void {
    this.scale.set(scale);
    // A device that keeps nothing still shows the chosen scale until the page is closed.
    holdText(key, scale);
  }

  temperature(celsius: number, digits = 0): string {
    return formatTemperature(celsius, this.scale(), digits);
  }

  /** A temperature from °C as a number on the chosen scale. */
  number(celsius: number): number {
    return this.scale() === 'F' ? celsiusToFahrenheit(celsius) : celsius;
  }

  /** The bare number of a temperature on the chosen scale, as an axis shows it. */
  degrees(celsius: number): string {
    return formatNumber(this.number(celsius), 0);
  }

  /** A sentence, its temperatures on the chosen scale. */
  speak(sentence: Sentence): string {
    return speak(sentence, this.scale());
  }

  /** A temperature difference. */
  difference(celsius: number, digits = 1): string {
    return formatTemperatureDifference(celsius, this.scale(), digits);
  }
}

const read = (): TemperatureScale => (heldText(key) === 'F' ? 'F' : 'C');
