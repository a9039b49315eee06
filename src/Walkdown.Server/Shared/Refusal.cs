using Walkdown.Core.Measures;

namespace Walkdown.Server.Shared;

/// <summary>Work that cannot be done, with its sentence.</summary>
public sealed class Refusal(Message what) : Exception(what.Code)
{
    public Message What { get; } = what;
}
