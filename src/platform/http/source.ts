/** By this header the host tells where a request comes from; what a visitor sends under it is overwritten. */
export const SOURCE_HEADER = "x-porch-lamp-source";
