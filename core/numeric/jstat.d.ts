/** What is used of the package; it ships no types of its own. */
declare module "jstat" {
  interface StudentT {
    cdf(x: number, dof: number): number;
    inv(p: number, dof: number): number;
  }
  const jStat: { studentt: StudentT };
  export default jStat;
}
