/**
 * Words that mean themselves: however much like a name one of them is, it is never taken for one that
 * is spelt a little differently, nor for a part of one.
 */
const WORDS = `
  a about after again agenda all also am an and any are around as ask at away back be because been
  before begin bit board book both bring brief budget but by call can care catch change chat check
  coffee come concert could day days deal demo did dinner discuss do does done draft during each early
  end even evening every everybody everyone field find first fix floor follow for form free from full
  get give go good group had half handover has have he hear help her here hers him his hold hour hours
  house how i if in intro into is it its job join just keep kick know lab last late lead learn let life
  like list little local long look lot lunch made mail make many map may me meet meeting meetings mine
  minutes month more morning most move much must my name near need new next night no not note notes now
  of off office old on once one only open or other our out over own pair part people person phone place
  plan please point post prep press project quick quiet ready real report rest review right room round
  run safe said same save say second see send session set she short show sit site six size small so some
  soon start staff stay still stop sync table take talk task team teams tell ten test than that the
  their them then there these they thing things think third this those time times to today together
  told tomorrow tonight too top tour train trip try turn two under up update us use very view visit
  wait walk want was water way we week weekly weeks well were what when where which while who whole why
  will wish with work workshop would write year yes yet you your yours about call new this`;

const COMMON: ReadonlySet<string> = new Set(WORDS.split(/\s+/).filter(Boolean));

export const isCommon = (word: string): boolean => COMMON.has(word.toLowerCase());
