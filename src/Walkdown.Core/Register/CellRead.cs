using Walkdown.Core.Measures;

namespace Walkdown.Core.Register;

/// <summary>A cell read into the register's own notation, or what is wrong with it and the mend.</summary>
public readonly record struct CellRead(string? Value, Message? What = null, Message? Mend = null)
{
    /// <summary>Neither a value nor wrong: the cell says that there is nothing.</summary>
    public bool IsNothing => Value is null && What is null;
}
