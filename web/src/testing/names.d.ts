/** The library's own types are out of reach of its `exports`. */
declare module "dom-accessibility-api" {
  export function computeAccessibleName(element: Element): string;
}
