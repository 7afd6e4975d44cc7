declare module "color-name" {
  /** Red, green and blue from 0 to 255, by names of CSS. */
  const names: Readonly<Record<string, readonly [number, number, number]>>;
  export default names;
}
