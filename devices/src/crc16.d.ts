declare module 'modbus-serial/utils/crc16.js' {
  /** Sum at the end of a frame on a serial line. */
  export default function crc16(bytes: Buffer): number;
}
