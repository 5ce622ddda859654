/**
 * Templates are written in plain English; the build looks each text up in the reader's language.
 *
 * "Each goes into {{ folder }} as well." becomes `$t('Each goes into {folder} as well.', { folder })`: a text and the
 * figures in it are one entry of the catalogue. `found` is told each entry, so that the catalogues can be made.
 */
import { parseExpression } from '@babel/parser'
import type { Expression } from '@babel/types'
import {
  type AttributeNode,
  createInterpolation,
  createSimpleExpression,
  type DirectiveNode,
  type ElementNode,
  type InterpolationNode,
  type NodeTransform,
  NodeTypes,
  processExpression,
  type SimpleExpressionNode,
  type TemplateChildNode,
  type TextNode,
  type TransformContext,
} from '@vue/compiler-dom'

/** Attributes and props that somebody reads or hears. */
const READ = new Set([
  'aria-label',
  'alt',
  'asks',
  'back',
  'detail',
  'empty',
  'hint',
  'label',
  'none',
  'placeholder',
  'says',
  'title',
])
/** Where a figure comes from, by its key: what an empty field counts as. */
const BASES = new Set(['default', 'inferred', 'label', 'measured'])
const WORDS = /\p{L}{2}/u
/** Where figures alone stand beside one another: " · ", " x ". */
const isWorded = (text: string): boolean => WORDS.test(text)

/** Steps of an expression that do not name what it says. */
const SAYS_LITTLE = new Set(['t', 'text', 'value', 'toFixed', 'slice', 'trim'])
/** What those give that write a figure. */
const WRITERS: Record<string, string> = {
  bare: 'length',
  celsiusText: 'degrees',
  clockTime: 'time',
  counted: 'count',
  dayAndTime: 'moment',
  dayOfMonth: 'day',
  engineering: 'figure',
  fixed: 'figure',
  lengthText: 'length',
  milliampHours: 'charge',
  percent: 'share',
  plain: 'figure',
}

type Found = (text: string) => void
type Worded = TextNode | InterpolationNode

export function templateWords(found: Found = () => undefined): NodeTransform {
  return (node, context) => {
    switch (node.type) {
      // A <template v-if> or v-for is gone by now: its children hang on these.
      case NodeTypes.IF_BRANCH:
      case NodeTypes.FOR:
        putInWords(node.children, found)
        break
      case NodeTypes.ELEMENT:
        putInWords(node.children, found)
        readAttributes(node, context, found)
    }
  }
}

/** Texts and the figures between them, put together into one looked-up text each; within the list, which others hold. */
function putInWords(children: TemplateChildNode[], found: Found): void {
  const done: TemplateChildNode[] = []
  let run: Worded[] = []
  const close = (): void => {
    done.push(...lookedUp(run, found))
    run = []
  }
  for (const child of children) {
    if (child.type === NodeTypes.TEXT || child.type === NodeTypes.INTERPOLATION) run.push(child)
    else {
      close()
      done.push(child)
    }
  }
  close()
  children.splice(0, children.length, ...done)
}

function lookedUp(run: Worded[], found: Found): TemplateChildNode[] {
  if (!run.some((node) => node.type === NodeTypes.TEXT && isWorded(node.content)))
    return run.map((node) => (node.type === NodeTypes.INTERPOLATION ? expressed(node, found) : node))
  const values = new Map<string, string>()
  const text = run
    .map((node) =>
      node.type === NodeTypes.TEXT
        ? escaped(node.content)
        : `{${named(worded(sourceOf(node), found), values)}}`,
    )
    .join('')
  return [createInterpolation(createSimpleExpression(asCall(text, values, found), false), run[0].loc)]
}

const sourceOf = (node: InterpolationNode): string => (node.content as SimpleExpressionNode).content

function expressed(node: InterpolationNode, found: Found): InterpolationNode {
  const source = sourceOf(node)
  const changed = worded(source, found)
  return changed === source
    ? node
    : createInterpolation(createSimpleExpression(changed, false, node.loc), node.loc)
}

/** `$t(…)` of a text, with the space around it outside. */
function asCall(text: string, values: Map<string, string>, found: Found): string {
  const [, before = '', core = '', after = ''] = /^(\s*)([\s\S]*?)(\s*)$/.exec(text)!
  const entry = core.replace(/\s+/g, ' ')
  found(entry)
  const given = [...values].map(([name, source]) => `${name}: ${source}`).join(', ')
  const call = `$t(${JSON.stringify(entry)}${given && `, { ${given} }`})`
  return `${before && '" " + '}${call}${after && ' + " "'}`
}

/** Braces and the signs that mean something in a catalogue, as they are. */
const escaped = (text: string): string => text.replace(/[{}@|]/g, (sign) => `{'${sign}'}`)

/** The name under which this expression stands in the text. */
function named(source: string, values: Map<string, string>): string {
  const words = source.replace(/\([^()]*\)\s*$/, '').match(/[A-Za-z]\w*/g) ?? []
  const last = words.filter((word) => !SAYS_LITTLE.has(word)).at(-1) ?? 'figure'
  const name = WRITERS[last] ?? last
  for (let count = 1; ; count++) {
    const tried = count === 1 ? name : `${name}${count}`
    if ((values.get(tried) ?? source) === source) {
      values.set(tried, source)
      return tried
    }
  }
}

/** An expression whose outcome is a text: the literals that it may come to are looked up. */
export function worded(source: string, found: Found): string {
  if (!/['"`]/.test(source)) return source
  let parsed: Expression
  try {
    parsed = parseExpression(source, { plugins: ['typescript'] })
  } catch {
    return source
  }
  const changes: [number, number, string][] = []
  const look = (at: Expression): void => {
    switch (at.type) {
      case 'ConditionalExpression':
        look(at.consequent)
        return look(at.alternate)
      case 'LogicalExpression':
        if (at.operator !== '&&') look(at.left)
        return look(at.right)
      case 'ParenthesizedExpression':
        return look(at.expression)
      case 'StringLiteral':
        if (isWorded(at.value))
          changes.push([at.start!, at.end!, asCall(escaped(at.value), new Map(), found)])
        return
      case 'TemplateLiteral': {
        if (!at.quasis.some((quasi) => isWorded(quasi.value.cooked ?? ''))) return
        const values = new Map<string, string>()
        const text = at.quasis
          .map((quasi, index) => {
            const inside = at.expressions[index]
            const name = inside && named(worded(source.slice(inside.start!, inside.end!), found), values)
            return escaped(quasi.value.cooked ?? '') + (name ? `{${name}}` : '')
          })
          .join('')
        changes.push([at.start!, at.end!, `(${asCall(text, values, found)})`])
      }
    }
  }
  look(parsed)
  return changes
    .sort(([first], [second]) => second - first)
    .reduce((text, [start, end, call]) => text.slice(0, start) + call + text.slice(end), source)
}

function readAttributes(node: ElementNode, context: TransformContext, found: Found): void {
  node.props = node.props.map((prop) => {
    if (prop.type === NodeTypes.ATTRIBUTE) return looked(prop, context, found)
    if (
      prop.name === 'bind' &&
      prop.arg?.type === NodeTypes.SIMPLE_EXPRESSION &&
      READ.has(prop.arg.content)
    ) {
      const source = prop.exp?.loc.source ?? ''
      const changed = worded(source, found)
      if (changed !== source) prop.exp = processExpression(createSimpleExpression(changed, false), context)
    }
    return prop
  })
}

function looked(prop: AttributeNode, context: TransformContext, found: Found): AttributeNode | DirectiveNode {
  const text = prop.value?.content ?? ''
  if (!READ.has(prop.name) || !isWorded(text) || BASES.has(text)) return prop
  const call = createSimpleExpression(asCall(escaped(text), new Map(), found), false)
  return {
    type: NodeTypes.DIRECTIVE,
    name: 'bind',
    arg: createSimpleExpression(prop.name, true),
    exp: processExpression(call, context),
    modifiers: [],
    loc: prop.loc,
  }
}
