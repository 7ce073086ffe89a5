import { unseenSensor } from './sensor';
import type { Charger } from './system';

/** A charger of which nobody has read or said anything but its name and its card. */
export const bareCharger = ({ id, name, card }: Pick<Charger, 'id' | 'name' | 'card'>): Charger => ({
  id,
  name,
  card,
  sensor: unseenSensor,
  displayReadings: [],
  present: {},
  passcodeChanged: false,
});
