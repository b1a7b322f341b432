/** Steps through the links of the page, as a list is stepped through: gives the function that goes on by one or back. */
export function linkSteps(): (by: 1 | -1) => void {
  let at = -1;
  return (by) => {
    const links = [...document.querySelectorAll<HTMLAnchorElement>('main a[href]')].filter((a) => a.offsetParent !== null);
    at = Math.max(0, Math.min(links.length - 1, at + by));
    links[at]?.focus();
  };
}
