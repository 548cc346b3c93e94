/** How menus of the shell look. */
export const MENU = 'z-40 min-w-56 rounded-sm border border-edge bg-sheet p-1.5 shadow-lg';
export const MENU_ITEM =
  'block cursor-pointer rounded-sm px-3 py-1.5 outline-none data-[highlighted]:bg-gentian-wash';
