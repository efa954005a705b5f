import { Button } from '@mantine/core';
import { Link } from 'wouter';
import type { Packet, Page } from '../api/client';
import { allPages } from '../packet/apply';
import { Header } from '../shared/Header';
import headerClasses from '../shared/Header.module.css';
import { t } from '../words';
import { ReviewedMark } from './ReviewedMark';
import { SUMMARY } from './useShow';

/** The head of the read-through: where it is, how far it has come, and the way back. */
export function ReadingHeader({ packet, status, page }: { packet: Packet; status: string; page?: Page }) {
  const pages = allPages(packet);
  const reviewed = pages.filter((p) => p.reviewed === 'yes').length;
  return (
    <Header title={<span className={headerClasses.name}>{packet.name}</span>}>
      <span className="soft" role="status">
        {status}
      </span>
      {page && <ReviewedMark page={page} />}
      {page && (
        <Button
          component={Link}
          href={`/packets/${packet.id}/read/${SUMMARY}`}
          title={t('readthrough.whatIsCheckedAndWhat')}
        >
          {t('readthrough.ofChecked', { reviewed, pages: pages.length })}
        </Button>
      )}
      <Button component={Link} href={`/packets/${packet.id}${page ? `?page=${page.id}` : ''}`}>
        {t('readthrough.backToTheBench')}
      </Button>
    </Header>
  );
}
