/** What a measuring script keeps in the page it looks at. */
interface Window {
  /** Lengths of long tasks, ms. */
  tasks: number[];
  /** How long each key took into the store, ms. */
  kept: number[];
}
