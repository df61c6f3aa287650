import { CatalogueScreen } from '@/ui/catalogue';

export const metadata = { title: 'Catalogue · Last' };

export default function CataloguePage() {
  return <CatalogueScreen />;
}
