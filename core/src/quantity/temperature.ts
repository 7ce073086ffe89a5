/** A temperature reading from °C to °F. */
export const celsiusToFahrenheit = (celsius: number): number => (celsius * 9) / 5 + 32;

/** A temperature reading from °F to °C. */
export const fahrenheitToCelsius = (fahrenheit: number): number => ((fahrenheit - 32) * 5) / 9;

/** A temperature *difference* (margin, hysteresis, error) from °C to °F: 4 °C of margin are 7.2 °F. */
export const celsiusDifferenceToFahrenheit = (difference: number): number => (difference * 9) / 5;
