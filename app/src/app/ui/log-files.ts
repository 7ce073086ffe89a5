/** Files that are offered when a log is chosen. Any other text is read as well where it is a table. */
export const logFiles = '.csv,.txt,.tsv,.log,.json,.jsonl,.ndjson,.xlsx,.xlsm,.zip,.gz,text/csv,text/plain,application/json,application/zip';
