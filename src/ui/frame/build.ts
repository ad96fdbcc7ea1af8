/** The header by which the server says which build of the program it runs, to pages and of pages. */
export const BUILD_HEADER = "x-porch-lamp-build";
