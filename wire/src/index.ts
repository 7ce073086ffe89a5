export * from './list';
export * from './open';
export { listenSerial, makeMessageReader, type Heard, type Talker, type TalkState } from './talkers';
