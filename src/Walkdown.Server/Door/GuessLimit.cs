using System.Threading.RateLimiting;
using Walkdown.Server.Shared;

namespace Walkdown.Server.Door;

/// <summary>How often secrets are guessed at from one address: thirty at once, then one every six seconds.</summary>
public static class GuessLimit
{
    private const int AtOnce = 30;
    private static readonly TimeSpan Each = TimeSpan.FromSeconds(6);

    public static void AddGuessLimit(this IServiceCollection services) =>
        services.AddRateLimiter(options =>
        {
            options.AddPolicy(
                AccessEndpoints.Guesses,
                http =>
                    RateLimitPartition.GetTokenBucketLimiter(
                        Caller.AddressOf(http),
                        _ => new TokenBucketRateLimiterOptions
                        {
                            TokenLimit = AtOnce,
                            TokensPerPeriod = 1,
                            ReplenishmentPeriod = Each,
                            QueueLimit = 0,
                        }
                    )
            );
            options.OnRejected = async (rejected, _) => await Problems.Of(429, "problem.too-often").ExecuteAsync(rejected.HttpContext);
            options.RejectionStatusCode = 429;
        });
}
