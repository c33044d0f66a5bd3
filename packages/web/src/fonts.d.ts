/** Font files imported by their address. */
declare module '*.woff' {
  const address: string;
  export default address;
}
