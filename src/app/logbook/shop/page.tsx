export { ShopPage as default } from '@/features/shop/ShopPage';
