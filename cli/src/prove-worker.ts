import { judgeJob, type JobTask } from './judge-job.js';

/** What each worker of the pool runs. */
export default (task: JobTask) => judgeJob(task);
