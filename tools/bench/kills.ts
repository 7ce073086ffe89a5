/** How much of what is typed a killed tab loses, as many tabs as `KILLS` says, 40 of itself. */
import { attackBrowser } from '../attack/browser';
import { lossOf } from '../attack/table';

const kills = Number(process.env['KILLS'] ?? 40);
const { lossMs } = await attackBrowser({ kills, damages: 0, clocks: 0, disks: 0, versions: 0, deaths: 0 }, 1);
console.log(lossOf(lossMs));
