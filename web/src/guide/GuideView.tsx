import { Button, TextInput } from '@mantine/core';
import { useDocumentTitle } from '@mantine/hooks';
import { useState } from 'react';
import Markdown from 'react-markdown';
import guide from '../../../docs/guide.md?raw';
import { Header } from '../shared/Header';
import headerClasses from '../shared/Header.module.css';
import { t } from '../words';
import classes from './GuideView.module.css';
import { found, sectionsOf } from './sections';

const sections = sectionsOf(guide);

const pictures = import.meta.glob<string>('../../../docs/screenshots/*.png', {
  eager: true,
  query: '?url',
  import: 'default',
});

const pictureOf = (path: string | undefined) => pictures[`../../../docs/${path}`];

/** How to get things done, task by task; the tasks can be searched. */
export function GuideView() {
  useDocumentTitle(t('guide.title'));
  const [search, setSearch] = useState('');
  const shown = found(sections, search);
  return (
    <div className={classes.view}>
      <Header title={<span className={headerClasses.name}>{t('guide.title')}</span>}>
        <Button onClick={() => window.history.back()}>{t('guide.back')}</Button>
      </Header>
      <nav className={classes.tasks} aria-label={t('guide.tasks')}>
        <TextInput
          aria-label={t('guide.search')}
          placeholder={t('guide.search')}
          value={search}
          onChange={(event) => setSearch(event.currentTarget.value)}
        />
        <ul>
          {shown.map(({ title }) => (
            <li key={title}>
              <a href={`#${idOf(title)}`}>{title}</a>
            </li>
          ))}
        </ul>
      </nav>
      <main className={classes.text} tabIndex={0}>
        <h1>{t('guide.title')}</h1>
        {search === '' && <p>{t('guide.intro')}</p>}
        {shown.length === 0 && <p>{t('guide.nothingFound', { search })}</p>}
        {shown.map(({ title, text }) => (
          <section key={title} id={idOf(title)}>
            <h2>{title}</h2>
            <Markdown
              components={{ img: ({ src, alt }) => <img src={pictureOf(src)} alt={alt} loading="lazy" /> }}
            >
              {text}
            </Markdown>
          </section>
        ))}
      </main>
    </div>
  );
}

const idOf = (title: string) => title.toLowerCase().replaceAll(/[^a-z]+/g, '-');
