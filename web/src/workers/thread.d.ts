/** The address of a worker that shares the page's scripts. */
declare module '*?thread' {
  const address: string;
  export default address;
}
