declare module 'jasmine-core' {
  const core: { boot: () => { getEnv: () => jasmine.Env } };
  export default core;
}
