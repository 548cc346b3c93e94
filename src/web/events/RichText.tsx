import { List, ListOrdered } from 'lucide-react';
import { useEffect, useRef, type ReactNode } from 'react';
import { EditorContent, useEditor, useEditorState, type Editor } from '@tiptap/react';
import StarterKit from '@tiptap/starter-kit';

/** Text with a little form: bold, italic, headings, lists, links. The server decides what may stay. */
export default function RichText({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (html: string) => void;
}) {
  const written = useRef(value);
  const editor = useEditor({
    extensions: [
      StarterKit.configure({
        heading: { levels: [3, 4] },
        link: { openOnClick: false, protocols: ['http', 'https', 'mailto'] },
      }),
    ],
    content: value,
    // Its style sheet would need a place in the page that our security policy does not give.
    injectCSS: false,
    editorProps: {
      attributes: {
        'aria-label': label,
        'aria-multiline': 'true',
        role: 'textbox',
        class: 'prose-text min-h-20 px-2.5 py-1.5 outline-none',
      },
    },
    onUpdate: ({ editor: now }) => {
      written.current = now.isEmpty ? '' : now.getHTML();
      onChange(written.current);
    },
  });
  // What others set, such as nothing where a form begins anew, is shown; what is typed is there already.
  useEffect(() => {
    if (value === written.current) return;
    written.current = value;
    editor?.commands.setContent(value, { emitUpdate: false });
  }, [editor, value]);
  return (
    <div className="rounded-sm border border-edge bg-sheet focus-within:border-gentian">
      {editor && <Tools editor={editor} label={label} />}
      <EditorContent editor={editor} />
    </div>
  );
}

function Tools({ editor, label }: { editor: Editor; label: string }) {
  const on = useEditorState({
    editor,
    selector: ({ editor: now }) => ({
      bold: now.isActive('bold'),
      italic: now.isActive('italic'),
      heading: now.isActive('heading'),
      list: now.isActive('bulletList'),
      numbers: now.isActive('orderedList'),
      quote: now.isActive('blockquote'),
      link: now.isActive('link'),
    }),
  });
  const chain = () => editor.chain().focus();
  const link = () => {
    if (on.link) return chain().unsetLink().run();
    const href = window.prompt('Address the chosen words lead to', 'https://');
    return href && href !== 'https://' ? chain().setLink({ href }).run() : false;
  };
  const tools: [ReactNode, string, boolean, () => unknown][] = [
    ['B', 'Bold', on.bold, () => chain().toggleBold().run()],
    ['I', 'Italic', on.italic, () => chain().toggleItalic().run()],
    ['H', 'Heading', on.heading, () => chain().toggleHeading({ level: 3 }).run()],
    [<List key="•" size={13} />, 'List', on.list, () => chain().toggleBulletList().run()],
    [
      <ListOrdered key="1." size={13} />,
      'Numbered list',
      on.numbers,
      () => chain().toggleOrderedList().run(),
    ],
    ['“', 'Quotation', on.quote, () => chain().toggleBlockquote().run()],
    ['Link', 'Link', on.link, link],
  ];
  return (
    <div
      role="toolbar"
      aria-label={`Formatting of the ${label.toLowerCase()}`}
      className="flex flex-wrap gap-px border-b border-edge px-1 py-0.5"
    >
      {tools.map(([sign, name, active, act]) => (
        <button
          key={name}
          type="button"
          aria-label={name}
          aria-pressed={active}
          title={name}
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => act()}
          className={`min-w-7 rounded-sm px-1.5 py-0.5 text-xs max-sm:size-11 font-semibold ${name === 'Italic' ? 'italic' : ''} ${active ? 'bg-gentian text-on-gentian' : 'hover:bg-gentian-wash'}`}
        >
          {sign}
        </button>
      ))}
    </div>
  );
}
