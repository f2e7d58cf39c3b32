import { DropdownMenu } from "radix-ui";
import { Link, NavLink, useLocation, useNavigate } from "react-router";
import { usePlanPart } from "../../plan/context";
import { Button } from "../../ui/Button";
import { PAGES_BELOW } from "../pages";

interface Props {
  pages: readonly { path: string; text: string }[];
  onSettings: () => void;
  onHelp: () => void;
}

/** The pages that stand at the bottom while a trip is under way; "Use" is one press further. */
const UNDER_WAY = ["today", "trip", "box", "improve"];

/** The pages of a phone, at its bottom edge; seldom ones behind "More". */
export function PagesBelow({ pages, onSettings, onHelp }: Props) {
  const id = usePlanPart((state) => state.plan.id);
  const go = useNavigate();
  const { pathname } = useLocation();
  const begun = pages[0]?.path === "today";
  const near = begun
    ? pages.filter((page) => UNDER_WAY.includes(page.path))
    : pages.slice(0, PAGES_BELOW);
  const far = pages.filter((page) => !near.includes(page));
  const here = far.find((page) => pathname.endsWith(`/${page.path}`));
  return (
    <nav aria-label="Pages, below" className="pages-below print:hidden">
      {near.map((page) => (
        <NavLink key={page.path} to={`/plan/${id}/${page.path}`}>
          {page.text}
        </NavLink>
      ))}
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <Button look="bare" data-here={here !== undefined}>
            {here ? here.text : "More"}
            <span className="sr-only">{here ? ": more pages" : " pages"}</span>
          </Button>
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content className="pop" side="top" align="end" collisionPadding={8}>
            {far.map((page) => (
              <DropdownMenu.Item key={page.path} className="menu-item" asChild>
                <Link to={`/plan/${id}/${page.path}`}>{page.text}</Link>
              </DropdownMenu.Item>
            ))}
            <DropdownMenu.Separator className="my-2 h-px bg-line" />
            <DropdownMenu.Item className="menu-item" onSelect={() => go("/")}>
              Boxes and trips
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" onSelect={onSettings}>
              Units and habits
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" onSelect={onHelp}>
              Shortcuts
            </DropdownMenu.Item>
            <DropdownMenu.Item className="menu-item" onSelect={() => go("/help")}>
              Help
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </nav>
  );
}
