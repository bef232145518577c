import { index, route, type RouteConfig } from '@react-router/dev/routes';

export default [
  index('routes/bench/route.tsx'),
  route('vinyls', 'routes/vinyls/route.tsx'),
  route('vinyls/new', 'routes/vinyls.new/route.tsx'),
  route('vinyls/:vinyl', 'routes/vinyls.$vinyl/route.tsx'),
  route('coupons', 'routes/coupons/route.tsx'),
  route('coupons/new', 'routes/coupons.new/route.tsx'),
  route('coupons/:coupon', 'routes/coupons.$coupon/route.tsx'),
  route('coupons/:coupon/run', 'routes/coupons.$coupon.run/route.tsx'),
  route('coupons/:coupon/grade', 'routes/coupons.$coupon.grade/route.tsx'),
  route('coupons/:coupon/result', 'routes/coupons.$coupon.result/route.tsx'),
  route('coupons/:coupon/coupon.svg', 'routes/coupons.$coupon.file/route.ts'),
  route('workshop', 'routes/workshop/route.tsx'),
  route('workshop/cutters/new', 'routes/workshop.cutters.new/route.tsx'),
  route('account', 'routes/account/route.tsx'),
  route('sign-in', 'routes/sign-in/route.tsx'),
  route('sign-out', 'routes/sign-out/route.ts'),
  route('units', 'routes/units/route.ts'),
  route('api/events', 'routes/api.events/route.ts'),
  route('health', 'routes/health/route.ts'),
  route('*', 'routes/not-found/route.tsx'),
] satisfies RouteConfig;
